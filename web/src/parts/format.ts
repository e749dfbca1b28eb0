import { localDay, type Money, minorDigits, minorToAmount } from '@ladder/core';

const SIGNS: Readonly<Record<string, string>> = { GBP: '£', EUR: '€', USD: '$', JPY: '¥' };
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

const withSign = (amount: string, currency: string): string =>
  SIGNS[currency] ? `${SIGNS[currency]}${amount}` : `${amount} ${currency}`;

/** 2.25, 36.1, 298: as many decimals as make three digits. */
const threeDigits = (number: number): string =>
  number.toFixed(Math.abs(number) >= 99.95 ? 0 : Math.abs(number) >= 9.995 ? 1 : 2);

/** An amount as short as it can be told: £140k, £2.25m. */
export function shortMoney(minor: number, currency: string): string {
  const major = minor / 10 ** minorDigits(currency);
  const size = Math.abs(major);
  if (size >= 999_500_000) return withSign(`${threeDigits(major / 1_000_000_000)}bn`, currency);
  if (size >= 999_500) return withSign(`${threeDigits(major / 1_000_000)}m`, currency);
  if (size >= 1_000) return withSign(`${Math.round(major / 1_000)}k`, currency);
  return withSign(String(Math.round(major)), currency);
}

export const shortValue = (value: Money | null): string =>
  value ? shortMoney(value.minor, value.currency) : 'no value';

/** An amount as it is written into a box: 1234.50. */
export const plainAmount = (value: Money): string => minorToAmount(value.minor, value.currency);

/** A day as `6 Nov`, with its year where that is not the present one. */
export function shortDay(day: string, today: string): string {
  const [year, month, date] = day.split('-');
  const name = `${Number(date)} ${MONTHS[Number(month) - 1]}`;
  return year === today.slice(0, 4) ? name : `${name} ${year}`;
}

/** The organisation's local day of an instant as the server tells it. */
export const dayOf = (instant: string, organisation: { readonly timeZone: string }): string =>
  localDay(Date.parse(instant), organisation.timeZone);

/** `1 deal`, `2 deals`. */
export const countOf = (count: number, name: string): string =>
  `${count.toLocaleString('en-GB')} ${name}${count === 1 ? '' : 's'}`;

export const percent = (share: number): string => `${Math.round(share * 100)}%`;
