import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calculate } from './calculate.ts';
import { catalogueOf, type Field, type Formula } from './field.ts';
import {
  describeFormulaProblem,
  formulaOperands,
  MOST_FORMULA_PARTS,
  readFormula,
  writeFormula,
} from './formulaText.ts';
import { foldText } from './value.ts';

const NAMES = [
  'Area',
  'Area of glass',
  'Build-cost',
  '2nd fix',
  'Ünit price',
  'Say "so"',
  'a',
  'Share (of all)',
  'a b',
];
const number = (name: string, place: number): Field => ({ id: `f${place}`, name, holder: 'deal', type: 'number' });
const FIELDS: readonly Field[] = [
  ...NAMES.map(number),
  { id: 'crop', name: 'Crop', holder: 'deal', type: 'text' },
  { id: 'staff', name: 'Staff', holder: 'customer', type: 'number' },
  { id: 'value', name: 'Value', holder: 'deal', type: 'money', builtIn: true },
  { id: 'margin', name: 'Margin', holder: 'deal', type: 'calculated', formula: { kind: 'field', field: 'value' } },
];
const catalogue = catalogueOf(FIELDS);
const place = { catalogue, holder: 'deal' } as const;

const read = (text: string): Formula => {
  const result = readFormula(text, place);
  if (!result.ok) throw new Error(describeFormulaProblem(result.error));
  return result.value;
};
const fault = (text: string, at: Parameters<typeof readFormula>[1] = place) => {
  const result = readFormula(text, at);
  return result.ok ? null : { code: result.error.code, at: result.error.at, length: result.error.length };
};
const worth = (text: string, values: Readonly<Record<string, number>> = {}): number | null =>
  calculate(read(text), values, { currency: 'GBP', rateOf: () => undefined });

const formulas = fc.letrec<{ formula: Formula }>((tie) => ({
  formula: fc.oneof(
    { maxDepth: 4 },
    fc.record({
      kind: fc.constant('number' as const),
      value: fc.double({ min: -1e9, max: 1e9, noNaN: true }).map((x) => Number(x.toPrecision(12)) + 0),
    }),
    fc.record({
      kind: fc.constant('field' as const),
      field: fc.constantFrom(...NAMES.map((_, at) => `f${at}`), 'value', 'margin'),
    }),
    fc.record({
      kind: fc.constantFrom('add' as const, 'subtract' as const, 'multiply' as const, 'divide' as const),
      left: tie('formula'),
      right: tie('formula'),
    }),
  ),
})).formula;

describe('a formula as text', () => {
  /* ISO 80000-2:2019, 2-10: signs of arithmetic; products before sums, and from left to right: common practice. */
  it.each([
    ['2 + 3 × 4', 14],
    ['(2 + 3) * 4', 20],
    ['10 − 4 − 3', 3],
    ['100 ÷ 10 ÷ 2', 5],
    ['100 / (10 / 2)', 20],
    ['-2 × -3', 6],
    ['2 − −3', 5],
    ['−(1 + 2)', -3],
    ['.5 * 4', 2],
    ['0', 0],
  ])('%s is %d', (text, expected) => {
    expect(worth(text)).toBe(expected);
  });

  it('takes the longest name that stands there, in any case, with or without quotes', () => {
    const values = { f0: 3, f1: 5, f2: 7, f3: 11, f5: 13, f6: 17, f7: 19, f8: 23 };
    expect(worth('AREA OF GLASS − area', values)).toBe(2);
    expect(worth('Build-cost', values)).toBe(7);
    expect(worth('"2nd fix" + "say ""SO"""', values)).toBe(24);
    expect(worth('a b − a', values)).toBe(6);
    expect(worth('Share (of all) × 2', values)).toBe(38);
  });

  it('says where it is wrong, and how', () => {
    expect(fault('')).toEqual({ code: 'value_expected', at: 0, length: 0 });
    expect(fault('Area +')).toEqual({ code: 'value_expected', at: 6, length: 0 });
    expect(fault('Area Value')).toEqual({ code: 'operation_expected', at: 5, length: 5 });
    expect(fault('(Area + 1')).toEqual({ code: 'not_closed', at: 0, length: 1 });
    expect(fault('Area)')).toEqual({ code: 'not_opened', at: 4, length: 1 });
    expect(fault('Area + "Value')).toEqual({ code: 'quote_not_closed', at: 7, length: 6 });
    expect(fault('1,000 + 1')).toEqual({ code: 'not_a_number', at: 0, length: 5 });
    expect(fault('1234567890123456')).toEqual({ code: 'not_a_number', at: 0, length: 16 });
    expect(fault('Aera × 2')).toEqual({ code: 'unknown_name', at: 0, length: 4 });
    expect(fault('2 × Crop')).toEqual({ code: 'not_a_number_field', at: 4, length: 4 });
    expect(fault('Staff')).toEqual({ code: 'other_holder', at: 0, length: 5 });
    expect(fault('Margin + 1', { ...place, field: 'margin' })).toEqual({ code: 'reads_itself', at: 0, length: 6 });
    const long = Array.from({ length: MOST_FORMULA_PARTS + 1 }, () => '1').join('+');
    expect(fault(long)).toEqual({ code: 'too_many_parts', at: 2 * MOST_FORMULA_PARTS, length: 1 });
    expect(fault('('.repeat(5_000))).toEqual({ code: 'too_long', at: 4_000, length: 1_000 });
    expect(fault('('.repeat(3_000))?.code).toBe('too_many_parts');
    expect(fault('−'.repeat(3_000))?.code).toBe('too_many_parts');
  });

  it('read again is the very formula that was written', () => {
    fc.assert(
      fc.property(formulas, (formula) => {
        expect(read(writeFormula(formula, catalogue))).toEqual(formula);
      }),
    );
  });

  it('of any text is a formula or a fault within the text', () => {
    const pieces = fc.constantFrom(...NAMES, 'Value', '"', '(', ')', '+', '−', '×', '÷', '.', '7', ' ', 'é', '\n');
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 12 }), (parts) => {
        const text = parts.join('');
        const result = readFormula(text, place);
        if (result.ok) return;
        expect(result.error.at + result.error.length).toBeLessThanOrEqual(text.length);
        expect(describeFormulaProblem(result.error)).not.toBe('');
      }),
    );
  });

  it('offers what it can read: numbers and amounts of its record that are not worked out from it', () => {
    const offered = formulaOperands({ ...place, field: 'margin' }).map(({ id }) => id);
    expect(offered).toContain('value');
    expect(offered).not.toContain('margin');
    expect(offered).not.toContain('crop');
    expect(new Set(NAMES.map(foldText)).size).toBe(NAMES.length);
  });
});
