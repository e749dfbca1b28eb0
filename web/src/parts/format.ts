import { localDay, type Money, minorDigits, minorToAmount } from '@ladder/core';

const SIGNS: Readonly<Record<string, string>> = { GBP: '£', EUR: '€', USD: '$', JPY: '¥' };

const withSign = (amount: string, currency: string): string =>
  SIGNS[currency] ? `${SIGNS[currency]}${amount}` : `${amount} ${currency}`;

const LOCALE = 'en-GB';
const wholeThousands = new Intl.NumberFormat(LOCALE, { notation: 'compact', maximumFractionDigits: 0 });
const threeDigits = new Intl.NumberFormat(LOCALE, {
  notation: 'compact',
  minimumSignificantDigits: 3,
  maximumSignificantDigits: 3,
});

/** An amount as short as it can be told: £140k, £2.25m. A sign that stands for several currencies is none of ours. */
export function shortMoney(minor: number, currency: string): string {
  const major = minor / 10 ** minorDigits(currency);
  const isMillions = Math.abs(major) >= 999_500;
  return withSign((isMillions ? threeDigits : wholeThousands).format(major), currency);
}

export const shortValue = (value: Money | null): string =>
  value ? shortMoney(value.minor, value.currency) : 'no value';

/** An amount as it is written into a box: 1234.50. */
export const plainAmount = (value: Money): string => minorToAmount(value.minor, value.currency);

const dayAndMonth = new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', timeZone: 'UTC' });
const withYear = new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });

/** A day as `6 Nov`, with its year where that is not the present one. */
export const shortDay = (day: string, today: string): string =>
  (day.slice(0, 4) === today.slice(0, 4) ? dayAndMonth : withYear).format(new Date(`${day}T00:00Z`));

/** The organisation's local day of an instant as the server tells it. */
export const dayOf = (instant: string, organisation: { readonly timeZone: string }): string =>
  localDay(Date.parse(instant), organisation.timeZone);

/** `1 deal`, `2 deals`. */
export const countOf = (count: number, name: string): string =>
  `${count.toLocaleString(LOCALE)} ${name}${count === 1 ? '' : 's'}`;

export const percent = (share: number): string => `${Math.round(share * 100)}%`;

const UNITS = ['bytes', 'kB', 'MB', 'GB'] as const;

/** `312 bytes`, `4.2 kB`, `25 MB`. */
export function byteCount(bytes: number): string {
  let [size, unit] = [bytes, 0];
  while (size >= 1_000 && unit < UNITS.length - 1) {
    size /= 1_000;
    unit++;
  }
  return `${unit > 0 && size < 10 ? size.toFixed(1) : Math.round(size)} ${UNITS[unit]}`;
}
