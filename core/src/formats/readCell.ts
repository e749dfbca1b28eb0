import type { Field } from '../facts/field.ts';
import { checkValue, describeValueProblem, type FactValue, foldText } from '../facts/value.ts';
import { amountToMinor } from '../money/money.ts';
import { failed, ok, type Result } from '../result.ts';
import { parseDay } from '../time/day.ts';

/** Finds people, teams, customers and contacts by what stands in a cell. */
export type Lookup = (type: 'person' | 'team' | 'customer' | 'contact', text: string) => string | null;

/** As long as the name of a customer or contact may be. */
const LONGEST_NAME = 300;
const YES = new Set(['yes', 'y', 'true', '1', 'x']);
const NO = new Set(['no', 'n', 'false', '0']);

/** A cell's text as a value of the field, or what is wrong with it in words. An empty cell is empty. */
export function readCell(field: Field, text: string, currency: string, lookup: Lookup): Result<FactValue, string> {
  const cell = text.trim();
  if (cell === '') return ok(null);
  const value = parseCell(field, cell, currency, lookup);
  if (!value.ok) return value;
  // Another system's book may carry choices that are no longer offered here.
  const problem = checkValue(field, value.value, value.value);
  return problem ? failed(describeValueProblem(problem)) : value;
}

function parseCell(field: Field, cell: string, currency: string, lookup: Lookup): Result<FactValue, string> {
  switch (field.type) {
    case 'number':
      return readNumber(cell);
    case 'money':
      return readMoney(cell, currency);
    case 'date':
      return readDate(cell);
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
      return readReference(field.type, cell, lookup);
    default:
      return ok(cell);
  }
}

const plainNumber = (cell: string): string => cell.replace(/[\s\u00a0]/g, '').replace(/,(?=\d{3}(\D|$))/g, '');

function readNumber(cell: string): Result<FactValue, string> {
  const text = plainNumber(cell);
  return /^[+-]?\d+(\.\d+)?$/.test(text)
    ? ok(Number(text))
    : failed(`“${cell}” is not a number. Write it like 1234.5.`);
}

function readMoney(cell: string, currency: string): Result<FactValue, string> {
  const coded = /^([A-Z]{3})\s*(.+)$|^(.+?)\s*([A-Z]{3})$/.exec(cell);
  const code = coded?.[1] ?? coded?.[4] ?? currency;
  const amount = amountToMinor(plainNumber((coded?.[2] ?? coded?.[3] ?? cell).replace(/^[£€$¥]/, '')), code);
  if (amount.ok) return ok({ minor: amount.value, currency: code });
  return failed(
    amount.error.code === 'too_many_decimals'
      ? `${code} has ${amount.error.allowed} decimal places.`
      : `“${cell}” is not an amount. Write it like 1234.50.`,
  );
}

/** A date as `YYYY-MM-DD` or, in the file's own order, day first: `24.12.2026` or `24/12/2026`. */
export function readDate(cell: string): Result<string, string> {
  const dayFirst = /^(\d{1,2})[./](\d{1,2})[./](\d{4})$/.exec(cell);
  const text = dayFirst ? `${dayFirst[3]}-${dayFirst[2]?.padStart(2, '0')}-${dayFirst[1]?.padStart(2, '0')}` : cell;
  return parseDay(text) === null ? failed(`“${cell}” is not a date that exists. Write it as YYYY-MM-DD.`) : ok(text);
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

function readReference(
  type: 'person' | 'team' | 'customer' | 'contact',
  cell: string,
  lookup: Lookup,
): Result<FactValue, string> {
  if (cell.length > LONGEST_NAME) return failed(`This may have at most ${LONGEST_NAME} characters.`);
  const id = lookup(type, cell);
  return id === null ? failed(`There is no ${type} “${cell}”.`) : ok(id);
}
