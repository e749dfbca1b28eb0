import { type FactValue, type Field, failed, isMoney, type Result, readCell } from '@ladder/core';
import { plainAmount } from '../../parts/format.ts';

/** A value as it stands in a box to be written in. */
export function toText(value: FactValue): string {
  if (isMoney(value)) return plainAmount(value);
  return typeof value === 'string' || typeof value === 'number' ? String(value) : '';
}

/** What was written, read like a cell of an import: a box and a file take the same things for numbers and amounts. */
export const readText = (field: Field, text: string, currency: string): Result<FactValue, string> =>
  readCell(field, text, { currency, order: null, lookup: () => failed('none') });

/** What a text says, as it would be shown once saved; one that cannot be read stands for itself. */
export function meaning(field: Field, text: string, currency: string): string {
  const read = readText(field, text, currency);
  return read.ok ? toText(read.value) : text;
}
