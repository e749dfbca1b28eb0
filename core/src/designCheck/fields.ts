import { conditionsOf, termsOf } from '../criteria/criterion.ts';
import { formulaFields, sourceFields } from '../facts/calculate.ts';
import type { Catalogue, Formula } from '../facts/field.ts';
import { itemsOf } from '../gate/item.ts';
import { fieldsOf } from '../requirements/itemParts.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { gatesOf, placeOfItem } from './gates.ts';
import { type Design, type Remark, WHOLE_PROCESS } from './remark.ts';
import { quoted } from './words.ts';

/** Fields of a deal that its page shows whatever the process lists. */
const SHOWN_ANYWAY: readonly string[] = ['owner', 'team', 'own_chance', 'next_action', 'next_action_day'];

/** What is wrong with the fields that gates ask for: none of the process's screens shows them, or nobody asked for them before. */
export const fieldRemarks = (design: Design): readonly Remark[] => [
  ...hiddenFields(design),
  ...lateFields(design),
  ...divisions(design),
];

function hiddenFields(design: Design): readonly Remark[] {
  const { document, catalogue } = design;
  const shown = new Set([
    ...SHOWN_ANYWAY,
    ...document.sections.flatMap(({ fields }) => fields),
    ...document.stages.flatMap(({ steps }) => steps.flatMap(({ captures }) => captures.map(({ field }) => field))),
  ]);
  const remarks = new Map<string, Remark>();
  for (const item of itemsOf(document).values())
    for (const id of fieldsOf(item).flatMap((field) => sourceFields(field, catalogue))) {
      const field = catalogue.get(id);
      if (field?.holder !== 'deal' || shown.has(id) || remarks.has(id)) continue;
      remarks.set(id, {
        key: `hidden field ${id}`,
        weight: 'problem',
        place: placeOfItem(item, document),
        says: `${quoted(item, design)} needs ${field.name}, which no screen of the process shows.`,
        witness: null,
        remedy: { name: `List ${field.name} among the fields`, edits: [listing(id, design)] },
      });
    }
  return [...remarks.values()];
}

function listing(field: string, { document: { sections } }: Design) {
  const [first, ...rest] = sections;
  const main = first ?? { id: 'main', name: 'Deal', fields: [] };
  return { kind: 'set_sections', sections: [{ ...main, fields: [...main.fields, field] }, ...rest] } as const;
}

/** Fields that a gate asks for out of the blue: steps come before it, and none of them fills the field, nor did a gate ask for it. Whoever closes a deal is asked by the dialog. */
function lateFields(design: Design): readonly Remark[] {
  const { document, catalogue } = design;
  const remarks: Remark[] = [];
  const askedBefore = new Set<string>();
  for (const { from, items } of gatesOf(document)) {
    const steps = document.stages.slice(0, from + 1).flatMap((stage) => stage.steps);
    const filled = new Set(steps.flatMap(({ captures }) => captures.map(({ field }) => field)));
    for (const item of items) {
      const field = item.kind === 'field' ? catalogue.get(item.field) : undefined;
      const isLate =
        field &&
        item.at !== 'outcome' &&
        !field.builtIn &&
        field.holder === 'deal' &&
        field.type !== 'calculated' &&
        steps.length > 0 &&
        !filled.has(field.id) &&
        !askedBefore.has(field.id);
      if (!isLate) continue;
      remarks.push({
        key: `late field ${item.id} ${field.id}`,
        weight: 'warning',
        place: placeOfItem(item, document),
        says: `${field.name} is asked for here for the first time: no step before fills it, and no gate before asks for it.`,
        witness: null,
        remedy: null,
      });
    }
    for (const id of items.flatMap(fieldsOf)) askedBefore.add(id);
  }
  return remarks;
}

/** Calculated numbers of the process that divide by what may be nothing. */
function divisions({ document, catalogue }: Design): readonly Remark[] {
  const used = new Set([
    ...document.sections.flatMap(({ fields }) => fields),
    ...[...itemsOf(document).values()].flatMap(fieldsOf),
  ]);
  return [...used].flatMap((id): readonly Remark[] => {
    const field = catalogue.get(id);
    const divisor = field?.formula && zeroDivisor(field.formula, catalogue);
    if (!field || !divisor) return [];
    const names = formulaFields(divisor).map((part) => catalogue.get(part)?.name ?? 'a field that is gone');
    return [
      {
        key: `division ${id}`,
        weight: 'warning',
        place: WHOLE_PROCESS,
        says: `${field.name} divides by ${names.length > 0 ? names.join(' and ') : 'nothing'}, which may be 0; it is empty then, and a gate that reads it finds it missing.`,
        witness: null,
        remedy: null,
      },
    ];
  });
}

/** The first divisor that may be 0; null where none may. */
function zeroDivisor(formula: Formula, catalogue: Catalogue): Formula | null {
  if (formula.kind === 'number' || formula.kind === 'field') return null;
  const within = zeroDivisor(formula.left, catalogue) ?? zeroDivisor(formula.right, catalogue);
  if (within || formula.kind !== 'divide') return within;
  const { low, high } = rangeOf(formula.right, catalogue);
  return low <= 0 && high >= 0 ? formula.right : null;
}

interface Range {
  readonly low: number;
  readonly high: number;
}

/** Between which a formula's result lies, by the bounds of its fields: interval arithmetic (Moore, Interval Analysis, 1966). */
function rangeOf(formula: Formula, catalogue: Catalogue): Range {
  if (formula.kind === 'number') return { low: formula.value, high: formula.value };
  if (formula.kind === 'field') {
    const field = catalogue.get(formula.field);
    if (field?.formula) return rangeOf(field.formula, catalogue);
    return { low: field?.min ?? Number.NEGATIVE_INFINITY, high: field?.max ?? Number.POSITIVE_INFINITY };
  }
  const [a, b] = [rangeOf(formula.left, catalogue), rangeOf(formula.right, catalogue)];
  if (formula.kind === 'add') return { low: a.low + b.low, high: a.high + b.high };
  if (formula.kind === 'subtract') return { low: a.low - b.high, high: a.high - b.low };
  const over = formula.kind === 'divide' ? inverse(b) : b;
  const ends = [a.low, a.high].flatMap((x) => [over.low, over.high].map((y) => (x === 0 || y === 0 ? 0 : x * y)));
  return { low: Math.min(...ends), high: Math.max(...ends) };
}

const inverse = ({ low, high }: Range): Range =>
  low <= 0 && high >= 0
    ? { low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY }
    : { low: 1 / high, high: 1 / low };

/** Steps that an item reads. */
export const stepsRead = (item: GateItem): readonly string[] => {
  const criteria = [
    ...(item.kind === 'criterion' ? [item.criterion] : []),
    ...(item.appliesWhen ? [item.appliesWhen] : []),
  ];
  const read = criteria
    .flatMap(conditionsOf)
    .flatMap(termsOf)
    .flatMap((term) => (term.of === 'step' ? [term.step] : []));
  return item.kind === 'step' ? [item.step, ...read] : read;
};
