import { isCurrency, type Money, minorDigits } from '../money/money.ts';
import { FIRST_DAY, LAST_DAY, parseDay } from '../time/day.ts';
import type { Field } from './field.ts';

/** A recorded value; null is *empty*. A key that is absent from a record of values is *not recorded* (S1). */
export type FactValue = string | number | boolean | readonly string[] | Money | null;
export type Values = Readonly<Record<string, FactValue>>;

export const isMoney = (value: unknown): value is Money =>
  typeof value === 'object' && value !== null && 'minor' in value && 'currency' in value;

/** `''`, `[]`, null and what was never recorded are all without a value. */
export const isEmpty = (value: FactValue | undefined): boolean =>
  value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0);

/** `''` and `[]` are written as empty (S1). */
export const normaliseValue = (value: FactValue): FactValue => (isEmpty(value) ? null : value);

/**
 * Unicode NFC and simple case folding, code point by code point, so that texts compare alike everywhere (S3).
 * Source: the Unicode Standard, 3.13 and CaseFolding.txt, statuses C and S.
 */
export function foldText(text: string): string {
  let folded = '';
  for (const char of text.normalize('NFC')) folded += foldChar(char);
  return folded;
}

function foldChar(char: string): string {
  const upper = char.toUpperCase();
  const lower = (isOneCodePoint(upper) ? upper : char).toLowerCase();
  return isOneCodePoint(lower) ? lower : char;
}

const isOneCodePoint = (text: string): boolean =>
  text.length === 1 || (text.length === 2 && (text.codePointAt(0) ?? 0) > 0xffff);

export type ValueProblem =
  | { code: 'wrong_type'; needed: string }
  | { code: 'not_a_day' }
  | { code: 'unusual_day'; first: string; last: string }
  | { code: 'too_precise' }
  | { code: 'too_long'; allowed: number }
  | { code: 'below' | 'above'; bound: number }
  | { code: 'unknown_choice' | 'withdrawn_choice'; choice: string }
  | { code: 'unknown_currency'; currency: string }
  | { code: 'not_a_link' }
  | { code: 'null_character' }
  | { code: 'calculated' };

const TEXT_LIMIT = 2_000;
const LONG_TEXT_LIMIT = 20_000;

/**
 * What is wrong with a value for a field, or null where it fits. Empty always fits. A withdrawn choice fits only where
 * it was `kept`: chosen before it was withdrawn (S26).
 */
export function checkValue(field: Field, value: FactValue, kept: FactValue = null): ValueProblem | null {
  if (field.type === 'calculated') return { code: 'calculated' };
  if (isEmpty(value)) return null;
  switch (field.type) {
    case 'text':
      return checkText(value, TEXT_LIMIT);
    case 'long_text':
      return checkText(value, LONG_TEXT_LIMIT);
    case 'link':
      return checkText(value, TEXT_LIMIT) ?? (isWebAddress(String(value)) ? null : { code: 'not_a_link' });
    case 'number':
      return checkNumber(field, value);
    case 'money':
      return isMoney(value) ? checkMoney(field, value) : { code: 'wrong_type', needed: 'an amount' };
    case 'date':
      return typeof value === 'string' ? checkDay(field, value) : { code: 'wrong_type', needed: 'a date' };
    case 'yes_no':
      return typeof value === 'boolean' ? null : { code: 'wrong_type', needed: 'yes or no' };
    case 'choice':
      return typeof value === 'string'
        ? checkChoices(field, [value], kept)
        : { code: 'wrong_type', needed: 'one of the choices' };
    case 'choices':
      return Array.isArray(value)
        ? checkChoices(field, value, kept)
        : { code: 'wrong_type', needed: 'a list of choices' };
    case 'person':
    case 'customer':
    case 'contact':
    case 'team':
      return typeof value === 'string' ? null : { code: 'wrong_type', needed: `a ${field.type}` };
  }
}

function checkText(value: FactValue, allowed: number): ValueProblem | null {
  if (typeof value !== 'string') return { code: 'wrong_type', needed: 'text' };
  if (value.includes('\u0000')) return { code: 'null_character' };
  return value.length > allowed ? { code: 'too_long', allowed } : null;
}

function checkDay(
  { firstDay: first = FIRST_DAY, lastDay: last = LAST_DAY }: Field,
  value: string,
): ValueProblem | null {
  if (parseDay(value) === null) return { code: 'not_a_day' };
  return value >= first && value <= last ? null : { code: 'unusual_day', first, last };
}

function checkNumber(field: Field, value: FactValue): ValueProblem | null {
  if (typeof value !== 'number' || !Number.isFinite(value)) return { code: 'wrong_type', needed: 'a number' };
  // Whole numbers of that size have no more digits than that.
  if (Number.isInteger(value) && Math.abs(value) < 1e15) return checkBounds(field, value);
  const digits = value.toExponential().replace(/e.*$/, '').replace(/[-.]/g, '');
  return digits.length > 15 ? { code: 'too_precise' } : checkBounds(field, value);
}

function checkBounds(field: Field, value: number): ValueProblem | null {
  if (field.min !== undefined && value < field.min) return { code: 'below', bound: field.min };
  if (field.max !== undefined && value > field.max) return { code: 'above', bound: field.max };
  return null;
}

function checkMoney(field: Field, { minor, currency }: Money): ValueProblem | null {
  if (!isCurrency(currency)) return { code: 'unknown_currency', currency };
  return checkBounds(field, minor / 10 ** minorDigits(currency));
}

function checkChoices(field: Field, ids: readonly string[], kept: FactValue): ValueProblem | null {
  for (const id of ids) {
    const choice = field.choices?.find((candidate) => candidate.id === id);
    if (!choice) return { code: 'unknown_choice', choice: id };
    const wasChosen = kept === id || (Array.isArray(kept) && kept.includes(id));
    if (choice.withdrawn && !wasChosen) return { code: 'withdrawn_choice', choice: choice.name };
  }
  return null;
}

const isWebAddress = (text: string): boolean => /^https?:\/\/[^\s]+$/i.test(text);

/** The problem in words, to stand beside the field it belongs to. */
export function describeValueProblem(problem: ValueProblem): string {
  switch (problem.code) {
    case 'wrong_type':
      return `This needs ${problem.needed}.`;
    case 'not_a_day':
      return 'This is not a date that exists. Write it as YYYY-MM-DD.';
    case 'unusual_day':
      return `This must lie between ${problem.first} and ${problem.last}.`;
    case 'too_precise':
      return 'A number may have at most 15 significant digits.';
    case 'too_long':
      return `This may have at most ${problem.allowed} characters.`;
    case 'below':
      return `This must be at least ${problem.bound}.`;
    case 'above':
      return `This must be at most ${problem.bound}.`;
    case 'unknown_choice':
      return `“${problem.choice}” is not one of the choices.`;
    case 'withdrawn_choice':
      return `“${problem.choice}” is no longer offered.`;
    case 'unknown_currency':
      return `There is no currency “${problem.currency}”.`;
    case 'not_a_link':
      return 'A link starts with http:// or https://.';
    case 'null_character':
      return 'This holds a character that cannot be stored.';
    case 'calculated':
      return 'This is calculated and cannot be written.';
  }
}
