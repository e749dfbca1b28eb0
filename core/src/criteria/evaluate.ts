import type { Catalogue } from '../facts/field.ts';
import { type FactValue, foldText, isMoney } from '../facts/value.ts';
import type { CurrencyPair } from '../money/money.ts';
import { type Condition, type Criterion, isGroup, type Operand, partsOf } from './criterion.ts';
import type { Facts } from './facts.ts';
import { and, type Kleene, not, or } from './kleene.ts';
import { type ComparableKind, comparableKind, compareValues, termValue } from './terms.ts';

/** Why a criterion came out as it did: one node for each of the tree's, a leaf with what is and what is needed. */
export type Explanation =
  | {
      readonly kind: 'group';
      readonly criterion: Criterion;
      readonly result: Kleene;
      readonly parts: readonly Explanation[];
    }
  | {
      readonly kind: 'leaf';
      readonly criterion: Condition;
      readonly result: Kleene;
      readonly actual: FactValue;
      /** The values the operand is held against: one for a comparison, two for a range, the list for sets. */
      readonly needed: readonly FactValue[];
      /** Operands without a value, which made the answer unknown. */
      readonly missing: readonly Operand[];
      /** Exchange rates that were needed to compare two amounts, and are not set. */
      readonly missingRates: readonly CurrencyPair[];
    };

export type Leaf = Extract<Explanation, { kind: 'leaf' }>;

/** Evaluates the tree over a deal's facts, explaining every node. The plain form that the compiled one is tested against. */
export function evaluate(criterion: Criterion, facts: Facts, catalogue: Catalogue): Explanation {
  if (!isGroup(criterion)) return evaluateLeaf(criterion, facts, catalogue);
  const parts = partsOf(criterion).map((part) => evaluate(part, facts, catalogue));
  return { kind: 'group', criterion, result: combine(criterion.kind, parts), parts };
}

function combine(kind: 'all' | 'any' | 'not', parts: readonly Explanation[]): Kleene {
  if (kind === 'all') return parts.reduce<Kleene>((result, part) => and(result, part.result), true);
  if (kind === 'any') return parts.reduce<Kleene>((result, part) => or(result, part.result), false);
  return not(parts[0]?.result ?? null);
}

function evaluateLeaf(condition: Condition, facts: Facts, catalogue: Catalogue): Explanation {
  const kind = comparableKind(condition.left, catalogue);
  const actual = termValue(condition.left, facts);
  const needed = neededBy(condition, facts);
  const result = kind === null ? null : judge(condition, kind, actual, needed, facts);
  return {
    kind: 'leaf',
    criterion: condition,
    result,
    actual,
    needed,
    missing: missingIn(condition, facts),
    missingRates: kind === 'money' ? needed.flatMap((value) => rateMissing(actual, value, facts)) : [],
  };
}

function rateMissing(actual: FactValue, needed: FactValue, { rateOf }: Facts): readonly CurrencyPair[] {
  if (!isMoney(actual) || !isMoney(needed) || actual.currency === needed.currency) return [];
  const pair = { from: actual.currency, to: needed.currency };
  return rateOf(pair.from, pair.to) ? [] : [pair];
}

/** Every leaf of an explanation, in reading order. */
export const leavesOf = (explanation: Explanation): readonly Leaf[] =>
  explanation.kind === 'leaf' ? [explanation] : explanation.parts.flatMap(leavesOf);

function neededBy(condition: Condition, facts: Facts): readonly FactValue[] {
  if ('right' in condition) return [termValue(condition.right, facts)];
  if (condition.kind === 'between') return [termValue(condition.low, facts), termValue(condition.high, facts)];
  if ('values' in condition) return condition.values;
  return 'text' in condition ? [condition.text] : [];
}

function missingIn(condition: Condition, facts: Facts): readonly Operand[] {
  if (condition.kind === 'set' || condition.kind === 'unset') return [];
  const operands: Operand[] = [condition.left];
  for (const term of 'right' in condition
    ? [condition.right]
    : condition.kind === 'between'
      ? [condition.low, condition.high]
      : []) {
    if (term.of !== 'value' && term.of !== 'today') operands.push(term);
  }
  return operands.filter((operand) => termValue(operand, facts) === null);
}

function judge(
  condition: Condition,
  kind: ComparableKind,
  actual: FactValue,
  needed: readonly FactValue[],
  facts: Facts,
): Kleene {
  switch (condition.kind) {
    case 'set':
      return actual !== null;
    case 'unset':
      return actual === null;
    case 'between':
      return and(
        compareValues(kind, 'at_least', actual, needed[0] ?? null, facts),
        compareValues(kind, 'at_most', actual, needed[1] ?? null, facts),
      );
    case 'one_of':
      return isOneOf(kind, actual, condition.values);
    case 'none_of':
      return not(isOneOf(kind, actual, condition.values));
    case 'includes_any':
      return Array.isArray(actual) ? condition.values.some((id) => actual.includes(id)) : null;
    case 'includes_all':
      return Array.isArray(actual) ? condition.values.every((id) => actual.includes(id)) : null;
    case 'includes_none':
      return Array.isArray(actual) ? !condition.values.some((id) => actual.includes(id)) : null;
    case 'contains':
      return typeof actual === 'string' ? foldText(actual).includes(foldText(condition.text)) : null;
    case 'starts_with':
      return typeof actual === 'string' ? foldText(actual).startsWith(foldText(condition.text)) : null;
    default:
      return compareValues(kind, condition.kind, actual, needed[0] ?? null, facts);
  }
}

function isOneOf(kind: ComparableKind, actual: FactValue, values: readonly string[]): Kleene {
  if (typeof actual !== 'string') return null;
  return kind === 'text' ? values.map(foldText).includes(foldText(actual)) : values.includes(actual);
}
