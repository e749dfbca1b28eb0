import type { Catalogue, Field } from '../facts/field.ts';
import { type FactValue, isEmpty, isMoney } from '../facts/value.ts';
import { minorToAmount } from '../money/money.ts';
import { resultKey } from '../steps/step.ts';
import { type Condition, type Criterion, isGroup, type Term } from './criterion.ts';
import { operandField } from './operands.ts';

/** A piece of a sentence; strong pieces are the names and values in it. */
export interface Piece {
  readonly text: string;
  readonly strong: boolean;
}

/** Names of people, teams, customers and contacts by id. */
export type NameOf = (id: string) => string | undefined;

const strong = (text: string): Piece => ({ text, strong: true });
const plain = (text: string): Piece => ({ text, strong: false });

/** The criterion as an English sentence without its full stop, in pieces. */
export function phrase(criterion: Criterion, catalogue: Catalogue, nameOf: NameOf): readonly Piece[] {
  if (!isGroup(criterion)) return phraseLeaf(criterion, catalogue, nameOf);
  if (criterion.kind === 'not') return [plain('not: '), ...phrase(criterion.of, catalogue, nameOf)];
  const joint = criterion.kind === 'all' ? ' and ' : ' or ';
  return criterion.of.flatMap((part, place) => [
    ...(place > 0 ? [plain(joint)] : []),
    ...(isGroup(part) ? [plain('('), ...phrase(part, catalogue, nameOf), plain(')')] : phrase(part, catalogue, nameOf)),
  ]);
}

/** The criterion as one plain text: `Glazed area is at least 200 m²`. */
export const sentence = (criterion: Criterion, catalogue: Catalogue, nameOf: NameOf): string =>
  phrase(criterion, catalogue, nameOf)
    .map((piece) => piece.text)
    .join('');

const COMPARISON_WORDS = {
  equals: 'is',
  differs: 'is not',
  more: 'is more than',
  at_least: 'is at least',
  less: 'is less than',
  at_most: 'is at most',
} as const;
const DATE_WORDS = {
  equals: 'is',
  differs: 'is not',
  more: 'is after',
  at_least: 'is on or after',
  less: 'is before',
  at_most: 'is on or before',
} as const;
const LIST_WORDS = {
  one_of: 'is one of',
  none_of: 'is none of',
  includes_any: 'includes',
  includes_all: 'includes all of',
  includes_none: 'includes none of',
} as const;

function phraseLeaf(condition: Condition, catalogue: Catalogue, nameOf: NameOf): readonly Piece[] {
  const { left } = condition;
  const field = operandField(left, catalogue, nameOf) ?? undefined;
  const subject = strong(field?.name ?? GONE);
  // Results are named within their step alone.
  const nameIn: NameOf = (id) => (left.of === 'step' ? nameOf(resultKey(left.step, id)) : undefined) ?? nameOf(id);
  const show = (term: Term): Piece => strong(termText(term, field, catalogue, nameIn));
  switch (condition.kind) {
    case 'set':
      return [subject, plain(' is filled')];
    case 'unset':
      return [subject, plain(' is empty')];
    case 'between':
      return [subject, ...phraseRange(condition.low, condition.high, show)];
    case 'contains':
      return [subject, plain(' contains '), strong(`“${condition.text}”`)];
    case 'starts_with':
      return [subject, plain(' starts with '), strong(`“${condition.text}”`)];
    case 'one_of':
    case 'none_of':
    case 'includes_any':
    case 'includes_all':
    case 'includes_none':
      return [
        subject,
        plain(` ${LIST_WORDS[condition.kind]} `),
        strong(condition.values.map((id) => valueText(id, field, nameIn)).join(', ')),
      ];
    default: {
      const words = field?.type === 'date' ? DATE_WORDS : COMPARISON_WORDS;
      return [subject, plain(` ${words[condition.kind]} `), show(condition.right)];
    }
  }
}

function phraseRange(low: Term, high: Term, show: (term: Term) => Piece): readonly Piece[] {
  if (low.of === 'today' && high.of === 'today' && low.plus === 0 && high.plus > 0)
    return [plain(' is within the next '), strong(dayCount(high.plus))];
  if (low.of === 'today' && high.of === 'today' && high.plus === 0 && low.plus < 0)
    return [plain(' is within the last '), strong(dayCount(-low.plus))];
  return [plain(' is between '), show(low), plain(' and '), show(high)];
}

const GONE = 'A field that is gone';

function termText(term: Term, field: Field | undefined, catalogue: Catalogue, nameOf: NameOf): string {
  if (term.of === 'value') return isEmpty(term.value) ? '…' : valueText(term.value, field, nameOf);
  if (term.of === 'today') return todayText(term.plus);
  return operandField(term, catalogue, nameOf)?.name ?? GONE;
}

function todayText(plus: number): string {
  if (plus === 0) return 'today';
  return plus > 0 ? `${dayCount(plus)} from today` : `${dayCount(-plus)} ago`;
}

const dayCount = (days: number): string => (days === 1 ? '1 day' : `${days} days`);

const CURRENCY_SIGNS: Readonly<Record<string, string>> = { GBP: '£', EUR: '€', USD: '$', JPY: '¥' };
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A value as people read it: choices and people by name, amounts with their currency, dates as `18 Dec 2026`. */
export function valueText(value: FactValue, field: Field | undefined, nameOf: NameOf): string {
  if (value === null || value === '') return 'not filled';
  if (isMoney(value)) return moneyText(value.minor, value.currency);
  if (typeof value === 'boolean') return value ? 'Yes' : 'No';
  if (typeof value === 'number')
    return `${groupDigits(numberText(value, field))}${field?.unit ? unitText(field.unit) : ''}`;
  if (typeof value === 'string') return textOf(value, field, nameOf);
  return value.map((id) => textOf(id, field, nameOf)).join(', ');
}

/** A calculated number is shown to two decimals; what people wrote is shown as they wrote it. */
const numberText = (value: number, field: Field | undefined): string =>
  field?.type === 'calculated' ? String(Number(value.toFixed(2))) : String(value);

function textOf(value: string, field: Field | undefined, nameOf: NameOf): string {
  if (field?.type === 'date') return dateText(value);
  if (field?.choices) return field.choices.find((choice) => choice.id === value)?.name ?? value;
  return nameOf(value) ?? value;
}

/** `2026-12-18` as `18 Dec 2026`. */
export function dateText(day: string): string {
  const [year, month, date] = day.split('-');
  return `${Number(date)} ${MONTHS[Number(month) - 1] ?? month} ${year}`;
}

const unitText = (unit: string): string => (unit === '%' ? '%' : `\u00a0${unit}`);

function groupDigits(text: string): string {
  const [whole = '', decimals] = text.split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return decimals === undefined ? grouped : `${grouped}.${decimals}`;
}

function moneyText(minor: number, currency: string): string {
  const amount = groupDigits(minorToAmount(minor, currency).replace(/\.0+$/, ''));
  return CURRENCY_SIGNS[currency] ? `${CURRENCY_SIGNS[currency]}${amount}` : `${amount} ${currency}`;
}
