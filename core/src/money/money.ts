import { failed, ok, type Result } from '../result.ts';

/** An exact amount: a whole number of the currency's minor units, and its ISO 4217 code. */
export interface Money {
  readonly minor: number;
  readonly currency: string;
}

/**
 * Minor units that differ from 2 (ISO 4217, list one). Not asked of Intl: its data (CLDR) has 0 for AFN, IQD and LBP, where
 * the standard has 2, 3 and 2, and amounts are kept by these.
 */
const MINOR_DIGITS: Readonly<Record<string, number>> = {
  BIF: 0,
  CLP: 0,
  DJF: 0,
  GNF: 0,
  ISK: 0,
  JPY: 0,
  KMF: 0,
  KRW: 0,
  PYG: 0,
  RWF: 0,
  UGX: 0,
  UYI: 0,
  VND: 0,
  VUV: 0,
  XAF: 0,
  XOF: 0,
  XPF: 0,
  BHD: 3,
  IQD: 3,
  JOD: 3,
  KWD: 3,
  LYD: 3,
  OMR: 3,
  TND: 3,
  CLF: 4,
  UYW: 4,
};

const CURRENCIES = new Set(Intl.supportedValuesOf('currency'));

/** Whether the code names a currency. */
export const isCurrency = (code: string): boolean => CURRENCIES.has(code);

/** Decimal places of the currency's minor unit: GBP 2, JPY 0, BHD 3. */
export const minorDigits = (currency: string): number => MINOR_DIGITS[currency] ?? 2;

export type AmountProblem =
  | { code: 'not_a_number' }
  | { code: 'too_many_decimals'; allowed: number }
  | { code: 'too_large' };

/**
 * Reads a plain decimal (`1234.5`, no grouping) as minor units of the currency.
 * Errors: not a number; more decimals than the currency has; more than 15 significant digits.
 */
export function amountToMinor(text: string, currency: string): Result<number, AmountProblem> {
  const match = /^([+-]?)(\d+)(?:\.(\d+))?$/.exec(text.trim());
  if (!match) return failed({ code: 'not_a_number' });
  const digits = minorDigits(currency);
  const decimals = (match[3] ?? '').replace(/0+$/, '');
  if (decimals.length > digits) return failed({ code: 'too_many_decimals', allowed: digits });
  const minor = Number(`${match[2]}${decimals.padEnd(digits, '0')}`);
  if (!Number.isSafeInteger(minor) || String(minor).length > 15) return failed({ code: 'too_large' });
  return ok(match[1] === '-' && minor !== 0 ? -minor : minor);
}

/** The amount as a plain decimal text in major units: 123450 GBP is `1234.50`. */
export function minorToAmount(minor: number, currency: string): string {
  const digits = minorDigits(currency);
  const text = String(Math.abs(minor)).padStart(digits + 1, '0');
  const whole = text.slice(0, text.length - digits);
  return `${minor < 0 ? '-' : ''}${whole}${digits > 0 ? `.${text.slice(-digits)}` : ''}`;
}

/**
 * The quotient as a whole number, a half to the even neighbour (IEEE 754 roundTiesToEven, at whole numbers); the divisor
 * is above 0. The database's `half_even_ratio` is the same.
 */
export function halfEvenRatio(dividend: bigint, divisor: bigint): bigint {
  const size = dividend < 0n ? -dividend : dividend;
  const [whole, rest] = [size / divisor, (size % divisor) * 2n];
  const rounded = rest > divisor || (rest === divisor && whole % 2n === 1n) ? whole + 1n : whole;
  return dividend < 0n ? -rounded : rounded;
}

/** Weighted value in minor units: value x chance, the chance in whole percent (common practice). */
export const weightedMinor = (minor: number, chancePercent: number): number =>
  Number(halfEvenRatio(BigInt(minor) * BigInt(chancePercent), 100n));

/**
 * What one unit of a currency is in another: `value` of them; or where the rate was set the other way round (`turned`),
 * one of them for `value`. A plain decimal text, because a binary fraction is not exact.
 */
export interface Rate {
  readonly value: string;
  readonly turned: 'no' | 'yes';
}

/** Two currencies, converted from the first into the second. */
export interface CurrencyPair {
  readonly from: string;
  readonly to: string;
}

/** The rate of the day judged, or undefined where none is known. */
export type RateOf = (from: string, to: string) => Rate | undefined;

/** A currency to count amounts in, and the rates that lead there. */
export interface Exchange {
  readonly currency: string;
  readonly rateOf: RateOf;
}

/**
 * The amount in another currency, worked out exactly and rounded half-even once, to minor units (S33); null where no rate
 * is known, or where the result is too large to be told exactly.
 */
export function convert(money: Money, to: string, rateOf: RateOf): Money | null {
  if (money.currency === to) return money;
  const rate = rateOf(money.currency, to);
  if (rate === undefined) return null;
  const { digits, scale } = decimalOf(rate.value);
  const shift = minorDigits(to) - minorDigits(money.currency);
  const [times, over] = rate.turned === 'yes' ? [scale, digits] : [digits, scale];
  const minor = Number(halfEvenRatio(BigInt(money.minor) * times * powerOfTen(shift), over * powerOfTen(-shift)));
  return Number.isSafeInteger(minor) ? { minor, currency: to } : null;
}

/** A plain decimal as a ratio of whole numbers: `1.15` is 115 / 100. */
function decimalOf(text: string): { digits: bigint; scale: bigint } {
  const match = /^(\d+)(?:\.(\d+))?$/.exec(text);
  const digits = match ? BigInt(`${match[1]}${match[2] ?? ''}`) : 0n;
  if (digits === 0n) throw new RangeError(`Not a rate: ${text}`);
  return { digits, scale: powerOfTen(match?.[2]?.length ?? 0) };
}

const powerOfTen = (exponent: number): bigint => 10n ** BigInt(Math.max(0, exponent));
