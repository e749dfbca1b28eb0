import type { FactValue } from '../../facts/value.ts';
import { type Day, dayFromNumber, dayNumber } from '../../time/day.ts';
import { evaluate } from '../evaluate.ts';
import type { Facts } from '../facts.ts';
import { Budget } from './budget.ts';
import { type Claim, sizeOf, unfold } from './claim.ts';
import { exampleFacts, type Given } from './exampleFacts.ts';
import { daysToTry, type Puzzle, puzzleOn, type Reading, readFormula } from './puzzle.ts';
import { search } from './search.ts';
import type { Subject } from './variable.ts';

/** Facts with which a claim holds: of what it is about, the rest may be anything. */
export interface Example {
  readonly day: Day;
  readonly given: readonly Given[];
  /** What is done, and what is not. */
  readonly deeds: Readonly<Record<string, boolean>>;
  /** Calculated numbers that are taken to come to what is given. */
  readonly taken: readonly string[];
}

/** Why a question was left open: it took too many steps; or it compares what cannot be laid out in cells. */
export type Undecided = 'steps' | 'comparison';

export type Answer =
  | { readonly is: 'possible'; readonly example: Example }
  | { readonly is: 'impossible' }
  | { readonly is: 'undecided'; readonly why: Undecided };

/** Steps that one question may take: a fraction of a second. */
export const USUAL_STEPS = 100_000;
/** What reading a condition takes beside trying it. */
const STEPS_TO_READ = 20;

/**
 * Whether a claim can hold for any deal, from `subject.today` on: exactly, over comparisons of fields of every type with
 * constants, choices and days, and with unset ones unknown (Kleene). Every field's values fall into cells that no condition
 * tells apart, and one of each is tried; an example is judged again by `evaluate` before it is given. A field compared with
 * another has cells of their common line; amounts of two fields, numbers that count beside others that do not, and texts
 * compared both whole and in part may stay undecided, and so does what takes too many steps.
 *
 * A calculated number is taken to be able to come to anything. Source of the tables: S. C. Kleene, "On notation for ordinal
 * numbers", Journal of Symbolic Logic 3 (1938).
 */
export function satisfy(claim: Claim, subject: Subject, budget: Budget = new Budget(USUAL_STEPS)): Answer {
  const formula = unfold(claim);
  if (!budget.spend(sizeOf(formula) * STEPS_TO_READ)) return { is: 'undecided', why: 'steps' };
  const reading = readFormula(formula, subject);
  let undecided: Undecided | null = null;
  const days = daysToTry(reading, subject.today, budget);
  if (days === 'spent') return { is: 'undecided', why: 'steps' };
  for (const today of days) {
    const puzzle = puzzleOn(reading, subject, today, budget);
    const found = puzzle === 'spent' ? puzzle : search(puzzle, budget);
    if (puzzle === 'spent' || found === 'spent') return { is: 'undecided', why: 'steps' };
    if (found === 'none') {
      if (puzzle.cells.some(({ isWhole }) => !isWhole)) undecided = 'comparison';
      continue;
    }
    const example = exampleOf(puzzle, found, today);
    if (isSo(claim, example, reading, subject)) return { is: 'possible', example };
    undecided = 'comparison';
  }
  return undecided ? { is: 'undecided', why: undecided } : { is: 'impossible' };
}

function exampleOf({ slots, cells }: Puzzle, found: ReadonlyMap<number, number>, today: number): Example {
  const given: Given[] = [];
  const deeds: Record<string, boolean> = {};
  const taken: string[] = [];
  for (const [place, value] of found) {
    const slot = slots[place];
    const chosen: FactValue = cells[place]?.values[value] ?? null;
    if (slot?.kind === 'deed') deeds[slot.deed] = chosen === true;
    if (slot?.kind !== 'variable') continue;
    const { operand, field } = slot.variable;
    given.push({ operand, value: chosen });
    if (field.type === 'calculated') taken.push(field.id);
  }
  return { day: dayFromNumber(today), given, deeds, taken };
}

/** Judges the example as a deal's facts are judged. Amounts that were taken apart by currency are not one amount again. */
function isSo(claim: Claim, { given, deeds, day }: Example, { isMixed }: Reading, subject: Subject): boolean {
  return !isMixed && holds(claim, exampleFacts(given, dayNumber(day)), deeds, subject);
}

function holds(claim: Claim, facts: Facts, deeds: Readonly<Record<string, boolean>>, subject: Subject): boolean {
  switch (claim.kind) {
    case 'all':
      return claim.of.every((part) => holds(part, facts, deeds, subject));
    case 'any':
      return claim.of.some((part) => holds(part, facts, deeds, subject));
    case 'truth':
      return claim.among.includes(evaluate(claim.of, facts, subject.catalogue).result);
    case 'deed':
      return (deeds[claim.deed] ?? false) === claim.done;
  }
}
