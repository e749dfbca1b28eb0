import type { FieldType } from '../facts/field.ts';
import type { ConditionKind, Operand } from './criterion.ts';

const ORDERED: readonly ConditionKind[] = [
  'set',
  'unset',
  'equals',
  'differs',
  'more',
  'at_least',
  'less',
  'at_most',
  'between',
];
const NAMED: readonly ConditionKind[] = ['set', 'unset', 'equals', 'differs', 'one_of', 'none_of'];
const WRITTEN: readonly ConditionKind[] = [
  'set',
  'unset',
  'equals',
  'differs',
  'one_of',
  'none_of',
  'contains',
  'starts_with',
];

/** The conditions that make sense for each type of field, in the order in which they are offered. */
export const CONDITIONS_FOR: Readonly<Record<FieldType, readonly ConditionKind[]>> = {
  text: WRITTEN,
  long_text: ['set', 'unset', 'contains', 'starts_with'],
  link: ['set', 'unset', 'contains', 'starts_with'],
  number: ORDERED,
  calculated: ORDERED,
  money: ORDERED,
  date: ORDERED,
  yes_no: ['set', 'unset', 'equals'],
  choice: NAMED,
  choices: ['set', 'unset', 'includes_any', 'includes_all', 'includes_none'],
  person: NAMED,
  customer: NAMED,
  contact: NAMED,
  team: NAMED,
};

/** Counts are whole numbers and are always known. */
const COUNTED: readonly ConditionKind[] = ['equals', 'differs', 'more', 'at_least', 'less', 'at_most', 'between'];

/** The conditions that make sense for what an operand reads, whose type its field says. */
export function conditionsFor(operand: Operand, type: FieldType): readonly ConditionKind[] {
  return operand.of === 'field' || operand.of === 'step' ? CONDITIONS_FOR[type] : COUNTED;
}
