import { allOf, contrary } from '../criteria/satisfy/claim.ts';
import { passed } from '../requirements/itemParts.ts';
import type { GateItem } from '../requirements/kinds.ts';
import type { Asker } from './asker.ts';
import { type DesignGate, gatesOf, placeOfItem } from './gates.ts';
import { relatedParts } from './related.ts';
import type { Design, Remark } from './remark.ts';
import { askedIn, exampleWords, listed, quoted } from './words.ts';
import { brokenParts } from './written.ts';

/** Gates that no deal can meet, alone or with what earlier stages demand to stay so; and what in them cannot be asked together. */
export interface Contradictions {
  readonly remarks: readonly Remark[];
  /** Items that are not rightly written, or cannot be met, alone or beside others. */
  readonly items: ReadonlySet<string>;
}

export function contradictions(design: Design, ask: Asker): Contradictions {
  const remarks: Remark[] = [];
  const items = new Set(brokenParts(design));
  for (const gate of gatesOf(design.document)) {
    if (!ask.goesOn()) break;
    const asked = new Set(gate.items);
    for (const part of relatedParts([...gate.standing, ...gate.items])) {
      if (!part.some((item) => asked.has(item))) continue;
      for (;;) {
        const core = conflictIn(part, gate, items, ask);
        const last = core?.at(-1);
        if (!core || !last) break;
        items.add(last.id);
        remarks.push(remarkOn(last, core.slice(0, -1), gate, design, ask));
      }
    }
  }
  return { remarks, items };
}

/** The fewest items that cannot be met together, those asked last at the end; null where there are none, or it is not decided. */
function conflictIn(
  part: readonly GateItem[],
  gate: DesignGate,
  known: ReadonlySet<string>,
  ask: Asker,
): readonly GateItem[] | null {
  const left = part.filter(({ id }) => !known.has(id));
  const what = `whether everything that is asked to come to ${gate.into} can be met`;
  const isImpossible = (items: readonly GateItem[]): boolean =>
    ask.about(what, () => allOf(...items.map(passed))).is === 'impossible';
  return isImpossible(left) ? fewest(left, isImpossible) : null;
}

/** Leaves out, from the first on, whatever the answer does not need. */
export function fewest<Item>(items: readonly Item[], isStill: (items: readonly Item[]) => boolean): readonly Item[] {
  let kept = items;
  for (const item of items) {
    const without = kept.filter((other) => other !== item);
    if (isStill(without)) kept = without;
  }
  return kept;
}

function remarkOn(item: GateItem, others: readonly GateItem[], gate: DesignGate, design: Design, ask: Asker): Remark {
  const place = placeOfItem(item, design.document);
  const key = `contradiction ${[...others, item].map(({ id }) => id).join(' ')}`;
  const base = { key, weight: 'problem', place, remedy: null } as const;
  if (others.length === 0)
    return { ...base, says: `Nothing that a deal can be meets ${quoted(item, design)}.`, witness: null };
  const example = ask.about('', () => allOf(...others.map(passed), contrary(passed(item))));
  const words = example.is === 'possible' ? exampleWords(example.example, design) : '';
  const rest = listed(others.map((other) => `${quoted(other, design)}, asked ${askedIn(other, design)}`));
  return {
    ...base,
    says: `No deal can come to ${gate.into}: ${quoted(item, design)} cannot be met together with ${rest}.`,
    witness:
      words === ''
        ? null
        : `With ${words}, ${others.length === 1 ? 'the other is' : 'the others are'} met, and this is not.`,
  };
}
