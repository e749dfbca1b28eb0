import type { Field } from '../facts/field.ts';
import { checkValue, describeValueProblem, type FactValue, foldText } from '../facts/value.ts';
import { amountToMinor, isCurrency } from '../money/money.ts';
import { failed, ok, type Result } from '../result.ts';
import { parseDay } from '../time/day.ts';
import { type DateOrder, dateParts } from './dateOrder.ts';

type Named = 'person' | 'team' | 'customer' | 'contact';

/** Finds people, teams, customers and contacts by what stands in a cell; of several with one name none is chosen. */
export type Lookup = (type: Named, text: string) => Result<string, 'none' | 'several'>;

/** By what a cell is read, beside its field. */
export interface CellTerms {
  /** Of amounts that name none. */
  readonly currency: string;
  readonly lookup: Lookup;
  /** The order of dates with strokes; null where it is not known. */
  readonly order: DateOrder | null;
}

/** As long as the name of a customer or contact may be. */
const LONGEST_NAME = 300;
/** No number or amount is longer, its spaces and codes included. */
const LONGEST_NUMBER = 60;
const YES = new Set(['yes', 'y', 'true', '1', 'x']);
const NO = new Set(['no', 'n', 'false', '0']);

/** A cell's text as a value of the field, or what is wrong with it in words. An empty cell is empty. */
export function readCell(field: Field, text: string, terms: CellTerms): Result<FactValue, string> {
  const cell = text.trim();
  if (cell === '') return ok(null);
  const value = parseCell(field, cell, terms);
  if (!value.ok) return value;
  // Another system's book may carry choices that are no longer offered here.
  const problem = checkValue(field, value.value, value.value);
  return problem ? failed(describeValueProblem(problem)) : value;
}

function parseCell(field: Field, cell: string, terms: CellTerms): Result<FactValue, string> {
  switch (field.type) {
    case 'number':
      return readNumber(cell);
    case 'money':
      return readMoney(cell, terms.currency);
    case 'date':
      return readDate(cell, terms.order);
    case 'yes_no':
      return readYesNo(cell);
    case 'choice':
      return readChoice(field, cell);
    case 'choices':
      return readChoices(field, cell);
    case 'person':
    case 'team':
    case 'customer':
    case 'contact':
      return readReference(field.type, cell, terms.lookup);
    default:
      return ok(cell);
  }
}

const UNGROUPED = /^[+-]?\d+(\.\d+)?$/;
/** Thousands in threes, all behind one kind of mark: `1,250.50`, `1 250`. Neither `0,125` nor `12 34` is one. */
const GROUPED = /^[+-]?[1-9]\d{0,2}(?:([, \u00a0\u202f])\d{3})(?:\1\d{3})*(\.\d+)?$/;

/** The digits of what is plainly a number, without its grouping; null for anything else. */
function plainNumber(text: string): string | null {
  if (text.length > LONGEST_NUMBER) return null;
  if (UNGROUPED.test(text)) return text;
  return GROUPED.test(text) ? text.replace(/[, \u00a0\u202f]/g, '') : null;
}

function readNumber(cell: string): Result<FactValue, string> {
  const text = plainNumber(cell);
  return text === null ? failed(`“${shortened(cell)}” is not a number. Write it like 1234.5.`) : ok(Number(text));
}

const shortened = (cell: string): string => (cell.length > LONGEST_NUMBER ? `${cell.slice(0, LONGEST_NUMBER)}…` : cell);

/** A sign or an ISO 4217 code before or behind the number, and the number's own sign. */
const AMOUNT = /^([+-]?)(?:([A-Z]{3})|([£€$¥]))?\s*([^A-Z£€$¥]*?)\s*(?:([A-Z]{3})|([£€$¥]))?$/;

function readMoney(cell: string, currency: string): Result<FactValue, string> {
  const match = cell.length > LONGEST_NUMBER ? null : AMOUNT.exec(cell);
  const number = match ? plainNumber(match[4] ?? '') : null;
  if (!match || number === null) return failed(`“${shortened(cell)}” is not an amount. Write it like 1234.50.`);
  const named = currencyNamed([match[2], match[5]], [match[3], match[6]], currency);
  if (!named.ok) return named;
  const amount = amountToMinor(match[1] === '-' ? `-${number}` : number, named.value);
  if (amount.ok) return ok({ minor: amount.value, currency: named.value });
  return failed(
    amount.error.code === 'too_many_decimals'
      ? `${named.value} has ${amount.error.allowed} decimal places.`
      : `“${cell}” is not an amount. Write it like 1234.50.`,
  );
}

type Mark = string | undefined;

/** The one currency that codes and signs name; the usual one where there is none of them. */
function currencyNamed(codes: readonly Mark[], signs: readonly Mark[], usual: string): Result<string, string> {
  const named = new Set(codes.filter((code) => code !== undefined));
  for (const sign of signs.filter((mark) => mark !== undefined)) {
    const currency = currencyOfSign(sign, usual);
    if (currency === null)
      return failed(
        `“${sign}” stands for several currencies. Write the currency’s code instead, such as ${sign === '¥' ? 'JPY' : 'USD'} 40.`,
      );
    named.add(currency);
  }
  const [only = usual, ...others] = named;
  if (others.length > 0) return failed(`This names two currencies, ${[...named].join(' and ')}.`);
  return isCurrency(only) ? ok(only) : failed(`There is no currency “${only}”.`);
}

/** What a sign stands for: the usual currency where that is written with it, else the only one it is usual for (Unicode CLDR, narrow symbols). */
function currencyOfSign(sign: string, usual: string): string | null {
  if (narrowSign(usual) === sign) return usual;
  return { '£': 'GBP', '€': 'EUR' }[sign] ?? null;
}

function narrowSign(currency: string): string | undefined {
  if (!isCurrency(currency)) return undefined;
  const format = new Intl.NumberFormat('en', { style: 'currency', currency, currencyDisplay: 'narrowSymbol' });
  return format.formatToParts(1).find(({ type }) => type === 'currency')?.value;
}

/** A date as `YYYY-MM-DD`; with points day first; with strokes in the order of its column, which is told only where it matters. */
export function readDate(cell: string, order: DateOrder | null): Result<string, string> {
  const parts = dateParts(cell);
  if (!parts) return realDay(cell, cell);
  const { first, second, year } = parts;
  const fitsBoth = parts.mark === '/' && Number(first) <= 12 && Number(second) <= 12 && first !== second;
  if (fitsBoth && order === null)
    return failed(`“${cell}” can be read day first or month first. Say which for its column.`);
  const written = parts.mark === '.' ? 'day_first' : (order ?? (Number(second) > 12 ? 'month_first' : 'day_first'));
  const [day, month] = written === 'day_first' ? [first, second] : [second, first];
  return realDay(`${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`, cell);
}

function realDay(text: string, cell: string): Result<string, string> {
  return parseDay(text) === null
    ? failed(`“${shortened(cell)}” is not a date that exists. Write it as YYYY-MM-DD.`)
    : ok(text);
}

function readYesNo(cell: string): Result<FactValue, string> {
  const text = foldText(cell);
  if (YES.has(text)) return ok(true);
  return NO.has(text) ? ok(false) : failed(`“${cell}” is neither yes nor no.`);
}

function readChoice(field: Field, cell: string): Result<string, string> {
  const choice = field.choices?.find(({ id, name }) => id === cell || foldText(name) === foldText(cell));
  const names = field.choices?.map(({ name }) => name).join(', ');
  return choice ? ok(choice.id) : failed(`“${cell}” is not one of: ${names}.`);
}

function readChoices(field: Field, cell: string): Result<FactValue, string> {
  const ids: string[] = [];
  for (const part of cell.split(/[;|]/)) {
    const choice = readChoice(field, part.trim());
    if (!choice.ok) return choice;
    ids.push(choice.value);
  }
  return ok(ids);
}

const CALLED: Readonly<Record<Named, string>> = {
  person: 'people',
  team: 'teams',
  customer: 'customers',
  contact: 'contacts',
};

function readReference(type: Named, cell: string, lookup: Lookup): Result<FactValue, string> {
  if (cell.length > LONGEST_NAME) return failed(`This may have at most ${LONGEST_NAME} characters.`);
  const found = lookup(type, cell);
  if (found.ok) return found;
  if (found.error === 'none') return failed(`There is no ${type} “${cell}”.`);
  return failed(
    `There are several ${CALLED[type]} called “${cell}”.${type === 'person' ? ' Write the e-mail address.' : ''}`,
  );
}
