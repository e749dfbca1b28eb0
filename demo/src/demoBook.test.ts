import { type BookPart, readBookPart, writeBookPart } from '@ladder/contract';
import { expect, it } from 'vitest';
import { demoBook } from './demoBook.ts';

it('a book that was written as lines is read as it was', () => {
  const parts = [...demoBook(Date.UTC(2026, 10, 24, 10), { deals: 40 })];
  const asJson = (part: BookPart) => JSON.parse(JSON.stringify(part));
  const read = parts.map((part) => readBookPart(writeBookPart(part)));
  expect(read.map(asJson)).toEqual(parts.map(asJson));
  // JSON has no number for an end that never comes.
  const ends = (all: readonly BookPart[]) =>
    all.flatMap((part) => (part.part === 'deal' ? part.deal.findings.map(({ closedAt }) => closedAt) : []));
  expect(ends(read)).toEqual(ends(parts));
  expect(ends(parts)).toContain(Number.POSITIVE_INFINITY);
});

it('nothing in it has happened later than its present, in a night before a Sunday too', () => {
  const now = Date.UTC(2026, 10, 29, 1, 54);
  for (const part of demoBook(now, { deals: 80 }))
    if (part.part === 'deal') expect(part.deal.settledAt).toBeLessThanOrEqual(now);
});
