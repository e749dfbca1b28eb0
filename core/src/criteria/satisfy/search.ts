import type { Budget } from './budget.ts';
import type { Choice, Clause, Limit, Link, Puzzle } from './puzzle.ts';

/** Of each slot, the places of the values that are still left. */
type Left = readonly (readonly number[])[];

/** What was found: of each slot that the claim is about, the place of its value. */
export type Found = ReadonlyMap<number, number> | 'none' | 'spent';

/**
 * Looks for values of the slots with which the clause holds. Limits are taken at once; of a choice, ways that cannot be any
 * more fall out, and the choice with the fewest left is tried way by way; what links slots is tried last.
 */
export function search({ clause, cells }: Puzzle, budget: Budget): Found {
  const whole = cells.map(({ values }) => values.map((_, place) => place));
  return settle([clause], [], [], whole);

  function settle(todo: readonly Clause[], choices: readonly Choice[], links: readonly Link[], left: Left): Found {
    const narrowed = [...left];
    let open = [...choices];
    const linked = [...links];
    const stack = [...todo];
    for (;;) {
      for (let next = stack.pop(); next; next = stack.pop()) {
        if (!budget.spend(1)) return 'spent';
        if (next.kind === 'all') stack.push(...next.of);
        else if (next.kind === 'any') open.push(next);
        else if (next.kind === 'link') linked.push(next);
        else {
          const rest = remaining(next, narrowed);
          if (!budget.spend(rest.length)) return 'spent';
          if (rest.length === 0) return 'none';
          narrowed[next.slot] = rest;
        }
      }
      const still: Choice[] = [];
      for (const choice of open) {
        const prospects = choice.of.map((way) => prospect(way, narrowed));
        if (prospects.includes('sure')) continue;
        const ways = choice.of.filter((_way, place) => prospects[place] !== 'none');
        const [only] = ways;
        if (!only) return 'none';
        if (ways.length === 1) stack.push(only);
        else still.push({ kind: 'any', of: ways });
      }
      if (!budget.spend(still.length)) return 'spent';
      open = still;
      if (stack.length === 0) break;
    }
    const [first, ...others] = open.sort((a, b) => a.of.length - b.of.length);
    if (!first) return together(linked, narrowed);
    for (const way of first.of) {
      const found = settle([way], others, linked, narrowed);
      if (found !== 'none') return found;
    }
    return 'none';
  }

  /** Values for the slots that are linked, then for the others. */
  function together(links: readonly Link[], left: Left): Found {
    const slots = [...new Set(links.flatMap(({ slots: of }) => of))].sort(
      (a, b) => (left[a]?.length ?? 0) - (left[b]?.length ?? 0),
    );
    const chosen = new Map<number, number>();
    const isAllowed = ({ slots: of, allows }: Link): boolean =>
      of.some((slot) => !chosen.has(slot)) ||
      allows(of.map((slot) => cells[slot]?.values[chosen.get(slot) ?? -1] ?? null));
    const place = (at: number): 'found' | 'none' | 'spent' => {
      const slot = slots[at];
      if (slot === undefined) return 'found';
      for (const value of left[slot] ?? []) {
        chosen.set(slot, value);
        const asked = links.filter(({ slots: of }) => of.includes(slot));
        if (!budget.spend(asked.length)) return 'spent';
        const further = asked.every(isAllowed) ? place(at + 1) : 'none';
        if (further !== 'none') return further;
      }
      chosen.delete(slot);
      return 'none';
    };
    const outcome = place(0);
    if (outcome !== 'found') return outcome;
    left.forEach((places, slot) => {
      const [value] = places;
      const isAsked = places.length < (cells[slot]?.values.length ?? 0);
      if (!chosen.has(slot) && isAsked && value !== undefined) chosen.set(slot, value);
    });
    return chosen;
  }

  /** Whether a clause holds whatever is left is chosen, with nothing that is left, or it depends; that too where steps run out. */
  function prospect(clause: Clause, left: Left): 'sure' | 'none' | 'open' {
    if (clause.kind === 'link') return 'open';
    if (clause.kind === 'limit') {
      const places = left[clause.slot] ?? [];
      if (!budget.spend(places.length)) return 'open';
      const count = places.filter((place) => clause.allowed[place]).length;
      return count === places.length ? 'sure' : count === 0 ? 'none' : 'open';
    }
    const [deciding, other] = clause.kind === 'all' ? (['none', 'sure'] as const) : (['sure', 'none'] as const);
    let result: 'sure' | 'none' | 'open' = other;
    for (const part of clause.of) {
      const of = prospect(part, left);
      if (of === deciding) return deciding;
      if (of === 'open') result = 'open';
    }
    return result;
  }
}

const remaining = ({ slot, allowed }: Limit, left: Left): readonly number[] =>
  (left[slot] ?? []).filter((place) => allowed[place]);
