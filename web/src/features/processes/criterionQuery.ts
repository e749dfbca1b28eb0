import {
  type Catalogue,
  CONDITIONS_FOR,
  CONDITIONS_FOR_JOURNEY,
  type Condition,
  type ConditionKind,
  type Criterion,
  isGroup,
  JOURNEY_FACTS,
  type Operand,
  type Term,
} from '@ladder/core';
import type { RuleGroupType, RuleType } from 'react-querybuilder';

/*
 * The query builder edits rules and groups of its own shape; our tree stays the stored form. A rule's `value` holds
 * what our condition holds beside its operand.
 */

export type RuleValue =
  | { readonly kind: 'none' }
  | { readonly kind: 'term'; readonly term: Term }
  | { readonly kind: 'range'; readonly low: Term; readonly high: Term }
  | { readonly kind: 'list'; readonly values: readonly string[] }
  | { readonly kind: 'text'; readonly text: string };

/** An operand as the name of a query builder's field. */
export const operandKey = (operand: Operand): string =>
  operand.of === 'field' ? `field:${operand.field}` : `journey:${operand.fact}`;

export function operandFromKey(key: string): Operand {
  const fact = JOURNEY_FACTS.find((candidate) => key === `journey:${candidate}`);
  return fact ? { of: 'journey', fact } : { of: 'field', field: key.slice('field:'.length) };
}

/** Conditions that fit an operand, in the order in which they are offered. */
export function conditionsFor(operand: Operand, catalogue: Catalogue): readonly ConditionKind[] {
  if (operand.of === 'journey') return CONDITIONS_FOR_JOURNEY;
  const field = catalogue.get(operand.field);
  return field ? CONDITIONS_FOR[field.type] : ['set'];
}

/** The tree as the query builder has it; a lone condition stands in a group of its own. */
export function toQuery(criterion: Criterion): RuleGroupType {
  const part = toPart(criterion);
  return 'rules' in part ? part : { combinator: 'and', rules: [part] };
}

function toPart(criterion: Criterion): RuleGroupType | RuleType {
  if (!isGroup(criterion))
    return { field: operandKey(criterion.left), operator: criterion.kind, value: valueOfCondition(criterion) };
  if (criterion.kind === 'not') return { ...toQuery(criterion.of), not: true };
  return { combinator: criterion.kind === 'all' ? 'and' : 'or', rules: criterion.of.map(toPart) };
}

function valueOfCondition(condition: Condition): RuleValue {
  if ('right' in condition) return { kind: 'term', term: condition.right };
  if (condition.kind === 'between') return { kind: 'range', low: condition.low, high: condition.high };
  if ('values' in condition) return { kind: 'list', values: condition.values };
  return 'text' in condition ? { kind: 'text', text: condition.text } : { kind: 'none' };
}

/** The tree that the query builder's query stands for; a group of one is that one. */
export function fromQuery(query: RuleGroupType): Criterion {
  const parts = query.rules.flatMap((rule) =>
    typeof rule === 'string' ? [] : [fromPart(rule as RuleGroupType | RuleType)],
  );
  const [only] = parts;
  const group: Criterion =
    parts.length === 1 && only ? only : { kind: query.combinator === 'or' ? 'any' : 'all', of: parts };
  return query.not ? { kind: 'not', of: group } : group;
}

function fromPart(part: RuleGroupType | RuleType): Criterion {
  return 'rules' in part ? fromQuery(part) : fromRule(part);
}

function fromRule({ field, operator, value }: RuleType): Condition {
  const left = operandFromKey(field);
  const kind = operator as ConditionKind;
  const given = value as RuleValue;
  switch (kind) {
    case 'set':
    case 'unset':
      return { kind, left };
    case 'between':
      return {
        kind,
        left,
        low: given.kind === 'range' ? given.low : NO_VALUE,
        high: given.kind === 'range' ? given.high : NO_VALUE,
      };
    case 'one_of':
    case 'none_of':
    case 'includes_any':
    case 'includes_all':
    case 'includes_none':
      return { kind, left, values: given.kind === 'list' ? given.values : [] };
    case 'contains':
    case 'starts_with':
      return { kind, left, text: given.kind === 'text' ? given.text : '' };
    default:
      return { kind, left, right: given.kind === 'term' ? given.term : NO_VALUE };
  }
}

const NO_VALUE: Term = { of: 'value', value: null };

/** What a condition's value is before anyone has given one. */
export function startingValue(operand: Operand, kind: ConditionKind, catalogue: Catalogue): RuleValue {
  const type = operand.of === 'field' ? catalogue.get(operand.field)?.type : 'number';
  const term: Term =
    type === 'date' ? { of: 'today', plus: 0 } : { of: 'value', value: type === 'yes_no' ? true : null };
  switch (kind) {
    case 'set':
    case 'unset':
      return { kind: 'none' };
    case 'between':
      return { kind: 'range', low: term, high: type === 'date' ? { of: 'today', plus: 30 } : term };
    case 'one_of':
    case 'none_of':
    case 'includes_any':
    case 'includes_all':
    case 'includes_none':
      return { kind: 'list', values: [] };
    case 'contains':
    case 'starts_with':
      return { kind: 'text', text: '' };
    default:
      return { kind: 'term', term };
  }
}

/** A first criterion that can be saved as it stands. */
export function startingCriterion(catalogue: Catalogue): Criterion {
  const field = catalogue.get('value') ?? [...catalogue.values()][0];
  return { kind: 'set', left: { of: 'field', field: field?.id ?? 'value' } };
}
