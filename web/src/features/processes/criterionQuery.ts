import {
  type ActivityKind,
  type ActivitySpan,
  type Catalogue,
  type Condition,
  type ConditionKind,
  type Criterion,
  conditionsFor,
  isGroup,
  type JourneyFact,
  type Operand,
  operandField,
  type StepFact,
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

/** An operand as the name of a query builder's field; no id has a bar in it. */
export function operandKey(operand: Operand): string {
  switch (operand.of) {
    case 'field':
      return `field|${operand.field}`;
    case 'journey':
      return `journey|${operand.fact}`;
    case 'step':
      return `step|${operand.what}|${operand.step}`;
    case 'activities':
      return `activities|${operand.within}|${operand.activity}`;
    case 'documents':
      return `documents|${operand.document}`;
  }
}

export function operandFromKey(key: string): Operand {
  const [of, first = '', second = ''] = key.split('|');
  switch (of) {
    case 'journey':
      return { of, fact: first as JourneyFact };
    case 'step':
      return { of, what: first as StepFact, step: second };
    case 'activities':
      return { of, within: first as ActivitySpan, activity: second as ActivityKind };
    case 'documents':
      return { of, document: first };
    default:
      return { of: 'field', field: first };
  }
}

/** Conditions that fit an operand, in the order in which they are offered. */
export function conditionsOf(operand: Operand, catalogue: Catalogue): readonly ConditionKind[] {
  const field = operandField(operand, catalogue, () => undefined);
  return field ? conditionsFor(operand, field.type) : ['set'];
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
  const type = operandField(operand, catalogue, () => undefined)?.type;
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
