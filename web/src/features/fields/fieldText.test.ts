import type { FactValue, Field, FieldType } from '@ladder/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { meaning, readText, toText } from './fieldText.ts';

const field = (type: FieldType, more: Partial<Field> = {}): Field => ({
  id: type,
  name: type,
  holder: 'deal',
  type,
  ...more,
});
const read = (type: FieldType, text: string, more: Partial<Field> = {}) => {
  const result = readText(field(type, more), text, 'GBP');
  return result.ok ? result.value : result.error;
};

describe('what is written in a box', () => {
  it.each<[FieldType, string, FactValue]>([
    ['number', ' 4,200 ', 4200],
    ['number', '-0.5', -0.5],
    ['money', '£1,250.50', { minor: 125_050, currency: 'GBP' }],
    ['money', 'EUR 40', { minor: 4_000, currency: 'EUR' }],
    ['date', '2026-12-24', '2026-12-24'],
    ['text', '  North block ', 'North block'],
    ['long_text', 'One\ntwo', 'One\ntwo'],
    ['number', '  ', null],
    ['money', '', null],
  ])('%s %j', (type, text, expected) => {
    expect(read(type, text)).toEqual(expected);
  });

  /* A decimal comma taken for a grouping one would make 125 of twelve and a half. */
  it.each<[FieldType, string, RegExp]>([
    ['number', '12,5', /not a number/],
    ['number', '0x10', /not a number/],
    ['number', 'many', /not a number/],
    ['money', '12,50', /not an amount/],
    ['money', '1.005', /2 decimal places/],
    ['link', 'example', /starts with http/],
    ['date', '2026-02-30', /not a date that exists/],
  ])('%s %j is told what is wrong with it', (type, text, problem) => {
    expect(read(type, text)).toMatch(problem);
  });

  it('keeps to the bounds of its field', () => {
    expect(read('number', '7', { min: 10 })).toBe('This must be at least 10.');
  });

  it('reads back every number and amount as it stands in the box', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), fc.constantFrom('GBP', 'EUR'), (minor, currency) => {
        const amount = { minor, currency };
        const result = readText(field('money'), toText(amount), currency);
        expect(result).toEqual({ ok: true, value: amount });
        expect(read('number', toText(minor / 8))).toBe(minor / 8);
      }),
    );
  });

  it('means the same whether it was tidied up or not', () => {
    expect(meaning(field('number'), '4,200.0', 'GBP')).toBe('4200');
    expect(meaning(field('money'), '£3', 'GBP')).toBe('3.00');
    expect(meaning(field('number'), 'not yet', 'GBP')).toBe('not yet');
  });
});
