import type { ActivityKind, ActivitySpan } from '../facts/activityKind.ts';
import type { FactValue } from '../facts/value.ts';

/** Facts of the journey that a criterion may read beside fields; the first two follow the clock. */
export const JOURNEY_FACTS = ['days_in_stage', 'days_since_activity', 'close_date_moves'] as const;
export type JourneyFact = (typeof JOURNEY_FACTS)[number];

export const STEP_FACTS = ['result', 'day'] as const;
export type StepFact = (typeof STEP_FACTS)[number];

export type Operand =
  | { readonly of: 'field'; readonly field: string }
  | { readonly of: 'journey'; readonly fact: JourneyFact }
  /** How a step last ended, or on which day. */
  | { readonly of: 'step'; readonly step: string; readonly what: StepFact }
  /** How often something was done. */
  | { readonly of: 'activities'; readonly activity: ActivityKind; readonly within: ActivitySpan }
  /** How many documents of a kind are attached. */
  | { readonly of: 'documents'; readonly document: string };

/** What an operand is compared with: a constant, another operand, or a day relative to today. */
export type Term =
  | Operand
  | { readonly of: 'value'; readonly value: FactValue }
  | { readonly of: 'today'; readonly plus: number };

export const COMPARISONS = ['equals', 'differs', 'more', 'at_least', 'less', 'at_most'] as const;
export type Comparison = (typeof COMPARISONS)[number];

export type Criterion =
  | { readonly kind: 'all' | 'any'; readonly of: readonly Criterion[] }
  | { readonly kind: 'not'; readonly of: Criterion }
  | Condition;

/** A leaf of the tree. */
export type Condition =
  | { readonly kind: 'set' | 'unset'; readonly left: Operand }
  | { readonly kind: Comparison; readonly left: Operand; readonly right: Term }
  | { readonly kind: 'between'; readonly left: Operand; readonly low: Term; readonly high: Term }
  | { readonly kind: 'one_of' | 'none_of'; readonly left: Operand; readonly values: readonly string[] }
  | {
      readonly kind: 'includes_any' | 'includes_all' | 'includes_none';
      readonly left: Operand;
      readonly values: readonly string[];
    }
  | { readonly kind: 'contains' | 'starts_with'; readonly left: Operand; readonly text: string };

export type ConditionKind = Condition['kind'];

/** Whether the node has parts of its own. */
export const isGroup = (criterion: Criterion): criterion is Exclude<Criterion, Condition> =>
  criterion.kind === 'all' || criterion.kind === 'any' || criterion.kind === 'not';

/** The parts of a group, in order. */
export const partsOf = (group: Exclude<Criterion, Condition>): readonly Criterion[] =>
  group.kind === 'not' ? [group.of] : group.of;

/** Every leaf of the tree, in reading order. */
export function conditionsOf(criterion: Criterion): readonly Condition[] {
  return isGroup(criterion) ? partsOf(criterion).flatMap(conditionsOf) : [criterion];
}

/** The terms of a leaf: its operand first. */
export function termsOf(condition: Condition): readonly Term[] {
  if ('right' in condition) return [condition.left, condition.right];
  if (condition.kind === 'between') return [condition.left, condition.low, condition.high];
  return [condition.left];
}

const fieldsRead = new WeakMap<Criterion, readonly string[]>();

/** Ids of all fields the tree reads, each once: looked for once in a tree, which never changes and is asked about again and again. */
export function fieldsReadBy(criterion: Criterion): readonly string[] {
  const known = fieldsRead.get(criterion);
  if (known) return known;
  const terms = conditionsOf(criterion).flatMap(termsOf);
  const fields = [...new Set(terms.flatMap((term) => (term.of === 'field' ? [term.field] : [])))];
  fieldsRead.set(criterion, fields);
  return fields;
}
