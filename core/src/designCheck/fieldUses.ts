import { conditionsOf, fieldsReadBy } from '../criteria/criterion.ts';
import type { NameOf } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import type { FactValue } from '../facts/value.ts';
import { itemsOf } from '../gate/item.ts';
import { type ProcessDocument, stageOf } from '../processes/document.ts';
import { namesWith } from '../processes/documentNames.ts';
import { describeItem } from '../requirements/describeItem.ts';
import type { AskedAt } from '../requirements/item.ts';
import { criteriaOf, fieldsOf } from '../requirements/itemParts.ts';
import type { GateItem } from '../requirements/kinds.ts';
import type { GuidedStep } from '../steps/step.ts';

export const FIELD_USE_WAYS = ['listed', 'to_enter', 'before_leaving', 'to_close', 'filled', 'set'] as const;

/** One place of a process in which a field is used. */
export interface FieldUse {
  readonly field: string;
  /** Listed in a section, asked or read by a gate, filled in a step, or set by a step's result. */
  readonly way: (typeof FIELD_USE_WAYS)[number];
  /** Name of the section, stage or outcome. */
  readonly place: string;
  /** What is asked, or the step's name; empty for a section. */
  readonly what: string;
  /** Ids of the field's choices that are named there. */
  readonly choices: readonly string[];
}

/** Everywhere that a version's document uses fields, in the order of the ladder. */
export function fieldUses(document: ProcessDocument, catalogue: Catalogue, nameOf: NameOf): readonly FieldUse[] {
  return [
    ...document.sections.flatMap(({ name, fields }) =>
      fields.map((field): FieldUse => ({ field, way: 'listed', place: name, what: '', choices: [] })),
    ),
    ...[...itemsOf(document).values()].flatMap((item) => usesOf(item, document, catalogue, nameOf)),
    ...document.stages.flatMap(({ name, steps }) => steps.flatMap((step) => usesInStep(step, name))),
  ];
}

const WAYS: Readonly<Record<AskedAt, FieldUse['way']>> = {
  enter: 'to_enter',
  leave: 'before_leaving',
  checklist: 'before_leaving',
  rule: 'before_leaving',
  outcome: 'to_close',
};

function usesOf(item: GateItem, document: ProcessDocument, catalogue: Catalogue, nameOf: NameOf): readonly FieldUse[] {
  const place = item.stage
    ? stageOf(document, item.stage)?.name
    : document.outcomes.find(({ requirements }) => requirements.some(({ id }) => id === item.id))?.name;
  const what = describeItem(item, catalogue, namesWith(document, nameOf))
    .map(({ text }) => text)
    .join('');
  return [...new Set(fieldsOf(item))].map((field) => ({
    field,
    way: WAYS[item.at],
    place: place ?? '',
    what,
    choices: choicesNamed(item, field),
  }));
}

/** Values with which the item's criteria compare the field; of a choice they are ids. */
function choicesNamed(item: GateItem, field: string): readonly string[] {
  const conditions = criteriaOf(item).flatMap(conditionsOf);
  return conditions
    .filter((condition) => fieldsReadBy(condition).includes(field))
    .flatMap((condition) => {
      if ('values' in condition) return condition.values;
      return 'right' in condition && condition.right.of === 'value' ? textsOf(condition.right.value) : [];
    });
}

const textsOf = (value: FactValue): readonly string[] =>
  typeof value === 'string' ? [value] : Array.isArray(value) ? value : [];

function usesInStep({ name: what, captures, results }: GuidedStep, place: string): readonly FieldUse[] {
  const actions = results.flatMap((result) => result.actions);
  return [
    ...captures.map(({ field }): FieldUse => ({ field, way: 'filled', place, what, choices: [] })),
    ...actions.flatMap((action): readonly FieldUse[] => {
      if (action.do !== 'set_field') return [];
      const choices = action.set.to === 'value' ? textsOf(action.set.value) : [];
      return [{ field: action.field, way: 'set', place, what, choices }];
    }),
  ];
}
