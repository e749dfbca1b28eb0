import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { IN_POUNDS } from '../testing/builders.ts';
import { calculate, withCalculated } from './calculate.ts';
import { catalogueOf, type Field, type FieldType, type Formula } from './field.ts';
import { checkValue, describeValueProblem, type FactValue, foldText, isEmpty, normaliseValue } from './value.ts';

const field = (type: FieldType, more: Partial<Field> = {}): Field => ({
  id: type,
  name: type,
  holder: 'deal',
  type,
  ...more,
});
const code = (tested: Field, value: FactValue, kept?: FactValue) => checkValue(tested, value, kept)?.code ?? 'fits';

describe('a value and its field', () => {
  it('is empty as null, an empty text, an empty list; never as 0 or no', () => {
    expect([null, undefined, '', []].map((value) => isEmpty(value))).toEqual([true, true, true, true]);
    expect([0, false, ' ', ['a']].map((value) => isEmpty(value))).toEqual([false, false, false, false]);
    expect([normaliseValue(''), normaliseValue([]), normaliseValue(0)]).toEqual([null, null, 0]);
  });

  it.each<[FieldType, FactValue, string]>([
    ['text', 'Tomatoes', 'fits'],
    ['text', 7, 'wrong_type'],
    ['text', 'a\u0000b', 'null_character'],
    ['text', 'x'.repeat(2_001), 'too_long'],
    ['long_text', 'x'.repeat(2_001), 'fits'],
    ['number', 12.5, 'fits'],
    ['number', '12.5', 'wrong_type'],
    ['number', Number.POSITIVE_INFINITY, 'wrong_type'],
    ['number', 123456789012345, 'fits'],
    ['number', 1234567890123456, 'too_precise'],
    ['money', { minor: 100, currency: 'GBP' }, 'fits'],
    ['money', { minor: 100, currency: 'ZZZ' }, 'unknown_currency'],
    ['money', 100, 'wrong_type'],
    ['date', '2028-02-29', 'fits'],
    ['date', '2026-02-29', 'not_a_day'],
    ['date', '24.11.2026', 'not_a_day'],
    ['yes_no', false, 'fits'],
    ['yes_no', 'no', 'wrong_type'],
    ['link', 'https://gardens.example/plan', 'fits'],
    ['link', 'javascript:alert(1)', 'not_a_link'],
    ['person', 'p1', 'fits'],
    ['calculated', 1, 'calculated'],
  ])('%s takes %j: %s', (type, value, expected) => {
    expect(code(field(type), value)).toBe(expected);
  });

  it('always may be empty, but for a calculated one', () => {
    for (const type of ['text', 'number', 'money', 'date', 'choice', 'choices', 'yes_no', 'link'] as const)
      expect(code(field(type), null)).toBe('fits');
    expect(code(field('calculated'), null)).toBe('calculated');
  });

  it('stays within its bounds, which for money are in major units of its currency (ISO 4217: JPY has none)', () => {
    const bounded = { min: 10, max: 20 };
    expect([9, 10, 20, 21].map((value) => code(field('number', bounded), value))).toEqual([
      'below',
      'fits',
      'fits',
      'above',
    ]);
    const money = (minor: number, currency: string) => code(field('money', bounded), { minor, currency });
    expect([money(999, 'GBP'), money(1000, 'GBP'), money(15, 'JPY'), money(1500, 'JPY')]).toEqual([
      'below',
      'fits',
      'fits',
      'above',
    ]);
  });

  it('chooses what is offered; a withdrawn choice is only kept', () => {
    const choices = [
      { id: 'r', name: 'Red' },
      { id: 'g', name: 'Green', withdrawn: true },
    ];
    expect(code(field('choice', { choices }), 'r')).toBe('fits');
    expect(code(field('choice', { choices }), 'b')).toBe('unknown_choice');
    expect(code(field('choice', { choices }), 'g')).toBe('withdrawn_choice');
    expect(code(field('choice', { choices }), 'g', 'g')).toBe('fits');
    expect(code(field('choices', { choices }), ['r', 'g'], ['g'])).toBe('fits');
    expect(code(field('choices', { choices }), ['r', 'g'], ['r'])).toBe('withdrawn_choice');
    expect(describeValueProblem({ code: 'withdrawn_choice', choice: 'Green' })).toBe('“Green” is no longer offered.');
  });
});

describe('folding text', () => {
  /* Unicode CaseFolding.txt, statuses C and S: ẞ and ß fold apart from ss; İ has no simple folding of one code point. */
  it.each([
    ['STRASSE', 'strasse'],
    ['Straße', 'straße'],
    ['ΣΊΣΥΦΟΣ', 'σίσυφοσ'],
    ['Ångström', 'ångström'],
    ['A\u030Angstrom', 'ångstrom'],
  ])('%s folds to %s', (text, folded) => {
    expect(foldText(text)).toBe(folded);
  });

  it('folds once and for all, whatever the case and the composition', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        const folded = foldText(text);
        expect(foldText(folded)).toBe(folded);
        expect(foldText(text.normalize('NFD'))).toBe(folded);
      }),
    );
  });
});

describe('a calculated number', () => {
  const of = (id: string): Formula => ({ kind: 'field', field: id });
  const margin: Formula = {
    kind: 'divide',
    left: { kind: 'subtract', left: of('value'), right: of('cost') },
    right: of('value'),
  };

  it('counts money in major units, of whatever minor units its currency has', () => {
    expect(calculate(of('value'), { value: { minor: 1234, currency: 'BHD' } }, { ...IN_POUNDS, currency: 'BHD' })).toBe(
      1.234,
    );
    expect(calculate(of('value'), { value: { minor: 1234, currency: 'JPY' } }, { ...IN_POUNDS, currency: 'JPY' })).toBe(
      1234,
    );
    const values = { value: { minor: 200_00, currency: 'GBP' }, cost: { minor: 150_00, currency: 'GBP' } };
    expect(calculate(margin, values, IN_POUNDS)).toBe(0.25);
  });

  it('is empty where a part is, and where it would divide by zero', () => {
    expect(calculate(margin, { value: { minor: 200_00, currency: 'GBP' }, cost: null }, IN_POUNDS)).toBeNull();
    expect(
      calculate({ kind: 'divide', left: { kind: 'number', value: 1 }, right: of('area') }, { area: 0 }, IN_POUNDS),
    ).toBeNull();
    expect(calculate({ kind: 'multiply', left: of('area'), right: of('area') }, { area: 1e200 }, IN_POUNDS)).toBeNull();
  });

  it('is worked out at writing, one that reads another after it', () => {
    const catalogue = catalogueOf([
      field('number', { id: 'area' }),
      field('calculated', { id: 'twice', formula: { kind: 'add', left: of('area'), right: of('area') } }),
      field('calculated', { id: 'thrice', formula: { kind: 'add', left: of('twice'), right: of('area') } }),
    ]);
    expect(withCalculated({ area: 0.1, twice: 99 }, catalogue, 'deal', IN_POUNDS)).toEqual({
      area: 0.1,
      twice: 0.2,
      thrice: 0.3,
    });
  });
});
