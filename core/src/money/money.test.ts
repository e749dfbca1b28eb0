import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rate } from '../testing/builders.ts';
import { amountToMinor, convert, halfEvenRatio, minorDigits, minorToAmount, weightedMinor } from './money.ts';

describe('money', () => {
  /* ISO 4217, list one: minor units. */
  it('has the minor units of ISO 4217', () => {
    expect(
      Object.fromEntries(
        ['GBP', 'EUR', 'JPY', 'KRW', 'BHD', 'KWD', 'TND', 'CLF'].map((code) => [code, minorDigits(code)]),
      ),
    ).toEqual({
      GBP: 2,
      EUR: 2,
      JPY: 0,
      KRW: 0,
      BHD: 3,
      KWD: 3,
      TND: 3,
      CLF: 4,
    });
    expect(amountToMinor('1.5', 'JPY')).toEqual({ ok: false, error: { code: 'too_many_decimals', allowed: 0 } });
    expect(amountToMinor('1.234', 'BHD')).toEqual({ ok: true, value: 1234 });
  });

  it('weights a value by its chance: 3% of 40,000 is 1,200 (common practice)', () => {
    expect(weightedMinor(40_000_00, 3)).toBe(1_200_00);
  });

  /* IEEE 754, roundTiesToEven. */
  it('rounds a half to the even neighbour', () => {
    const rounded = [5n, 15n, 25n, -5n, -15n, 24n, 26n].map((tenths) => halfEvenRatio(tenths, 10n));
    expect(rounded).toEqual([0n, 2n, 2n, 0n, -2n, 2n, 3n]);
  });

  it('converts between currencies of different minor units', () => {
    expect(convert({ minor: 10_00, currency: 'GBP' }, 'JPY', () => rate('190.5'))).toEqual({
      minor: 1905,
      currency: 'JPY',
    });
    expect(convert({ minor: 10_00, currency: 'GBP' }, 'JPY', () => undefined)).toBeNull();
  });

  /* 0.50 x 1.15 is 0.575 exactly; as a binary fraction it lies just below. */
  it('converts decimals exactly and rounds once', () => {
    expect(convert({ minor: 50, currency: 'FJD' }, 'GBP', () => rate('1.15'))?.minor).toBe(58);
    expect(convert({ minor: 70, currency: 'FJD' }, 'GBP', () => rate('1.15'))?.minor).toBe(80);
    expect(convert({ minor: 115, currency: 'FJD' }, 'GBP', () => ({ value: '1.15', turned: 'yes' }))?.minor).toBe(100);
    expect(convert({ minor: 10 ** 14, currency: 'FJD' }, 'GBP', () => rate('1000000000'))).toBeNull();
  });

  it('reads back every amount it writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -(10 ** 14), max: 10 ** 14 }),
        fc.constantFrom('GBP', 'JPY', 'BHD'),
        (minor, currency) => {
          expect(amountToMinor(minorToAmount(minor, currency), currency)).toEqual({ ok: true, value: minor });
        },
      ),
    );
  });
});
