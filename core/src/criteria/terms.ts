import type { Catalogue, FieldType } from '../facts/field.ts';
import { type FactValue, foldText, isEmpty, isMoney } from '../facts/value.ts';
import { convert } from '../money/money.ts';
import { dayFromNumber } from '../time/day.ts';
import type { Comparison, JourneyFact, Operand, Term } from './criterion.ts';
import type { Facts } from './facts.ts';
import type { Kleene } from './kleene.ts';
import { operandField } from './operands.ts';

/** How the values of an operand compare: as numbers, amounts, dates, folded text, yes/no, or ids. */
export type ComparableKind = 'number' | 'money' | 'date' | 'text' | 'yes_no' | 'id' | 'ids';

const KIND_OF: Readonly<Record<FieldType, ComparableKind>> = {
  text: 'text',
  long_text: 'text',
  link: 'text',
  number: 'number',
  calculated: 'number',
  money: 'money',
  date: 'date',
  yes_no: 'yes_no',
  choice: 'id',
  person: 'id',
  customer: 'id',
  contact: 'id',
  team: 'id',
  choices: 'ids',
};

/** How an operand compares, or null where its field is gone from the catalogue. */
export function comparableKind(operand: Operand, catalogue: Catalogue): ComparableKind | null {
  const field = operandField(operand, catalogue, () => undefined);
  return field ? KIND_OF[field.type] : null;
}

/** A term's value for a deal at the moment judged; null where it has none. */
export function termValue(term: Term, facts: Facts): FactValue {
  switch (term.of) {
    case 'field': {
      const value = facts.values[term.field];
      return isEmpty(value) ? null : (value as FactValue);
    }
    case 'journey':
      return journeyFact(term.fact, facts);
    case 'step':
      return facts.stepResults?.[term.step]?.[term.what] ?? null;
    case 'activities':
      return facts.activityCounts[term.within]?.[term.activity] ?? null;
    case 'documents':
      return facts.documentCounts && (facts.documentCounts[term.document] ?? 0);
    case 'value':
      return isEmpty(term.value) ? null : term.value;
    case 'today':
      return dayFromNumber(facts.today + term.plus);
  }
}

function journeyFact(fact: JourneyFact, { today, enteredDay, lastActivityDay, closeDateMoves }: Facts): number {
  switch (fact) {
    case 'days_in_stage':
      return today - enteredDay;
    case 'days_since_activity':
      return today - (lastActivityDay ?? enteredDay);
    case 'close_date_moves':
      return closeDateMoves;
  }
}

/** Compares two values of one kind; unknown where one is unset, of another type, or in a currency without a rate. */
export function compareValues(
  kind: ComparableKind,
  comparison: Comparison,
  left: FactValue,
  right: FactValue,
  facts: Facts,
): Kleene {
  if (left === null || right === null) return null;
  switch (kind) {
    case 'number':
      return typeof left === 'number' && typeof right === 'number' ? holds(comparison, left, right) : null;
    case 'money':
      return compareMoney(comparison, left, right, facts);
    case 'yes_no':
      return typeof left === 'boolean' && typeof right === 'boolean' ? holds(comparison, left, right) : null;
    case 'text':
      return typeof left === 'string' && typeof right === 'string'
        ? holds(comparison, foldText(left), foldText(right))
        : null;
    case 'date':
    case 'id':
      return typeof left === 'string' && typeof right === 'string' ? holds(comparison, left, right) : null;
    case 'ids':
      return null;
  }
}

function compareMoney(comparison: Comparison, left: FactValue, right: FactValue, facts: Facts): Kleene {
  if (!isMoney(left) || !isMoney(right)) return null;
  if (left.currency === right.currency) return holds(comparison, left.minor, right.minor);
  const converted = convert(left, right.currency, facts.rateOf);
  return converted ? holds(comparison, converted.minor, right.minor) : null;
}

function holds<T extends string | number | boolean>(comparison: Comparison, left: T, right: T): boolean {
  switch (comparison) {
    case 'equals':
      return left === right;
    case 'differs':
      return left !== right;
    case 'more':
      return left > right;
    case 'at_least':
      return left >= right;
    case 'less':
      return left < right;
    case 'at_most':
      return left <= right;
  }
}
