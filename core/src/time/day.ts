import { TZDate } from '@date-fns/tz';

/** A local date, `YYYY-MM-DD`, in the organisation's time zone. */
export type Day = string;

/** A point in time: milliseconds since 1970-01-01T00:00Z. */
export type Instant = number;

const MS_PER_DAY = 86_400_000;
const DAY_PATTERN = /^(\d{4})-(\d{2})-(\d{2})$/;

/** Whole days since 1970-01-01 for a valid `YYYY-MM-DD`; null where the text is no real date (30 February). */
export function parseDay(text: string): number | null {
  const match = DAY_PATTERN.exec(text);
  if (!match) return null;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  const date = new Date(Date.UTC(year, month - 1, day));
  date.setUTCFullYear(year);
  const real = date.getUTCMonth() === month - 1 && date.getUTCDate() === day && year > 0;
  return real ? Math.floor(date.getTime() / MS_PER_DAY) : null;
}

/** What may be written as a date: what lies beyond is a slip of the keyboard. */
export const FIRST_DAY: Day = '1900-01-01';
export const LAST_DAY: Day = '2200-12-31';

/** Whether a day that exists lies where dates of deals do. */
export const isUsualDay = (day: Day): boolean => day >= FIRST_DAY && day <= LAST_DAY;

const MOST_NUMBERS = 20_000;
const numbers = new Map<Day, number>();

/** Whole days since 1970-01-01 for a day that is known to be valid. Throws on anything else. */
export function dayNumber(day: Day): number {
  // Deals lie within few years, and each is judged by the same days again and again.
  const known = numbers.get(day);
  if (known !== undefined) return known;
  const number = parseDay(day);
  if (number === null) throw new RangeError(`Not a date: ${day}`);
  if (numbers.size >= MOST_NUMBERS) numbers.clear();
  numbers.set(day, number);
  return number;
}

const FIRST_NUMBER = -719_162;
const LAST_NUMBER = 2_932_896;

/** Whether there is such a day: none lies before the year 1 or after 9999. */
export const isInCalendar = (number: number): boolean => number >= FIRST_NUMBER && number <= LAST_NUMBER;

/** The day that lies `number` days after 1970-01-01; before the year 1 and after 9999 there is none, so it stays at that end. */
export const dayFromNumber = (number: number): Day =>
  new Date(Math.min(Math.max(number, FIRST_NUMBER), LAST_NUMBER) * MS_PER_DAY).toISOString().slice(0, 10);

/** The day `days` calendar days after `day` (before it, where negative). */
export const addDays = (day: Day, days: number): Day => dayFromNumber(dayNumber(day) + days);

/** Calendar days from `from` to `to`: 6 to 24 November is 18. */
export const daysBetween = (from: Day, to: Day): number => dayNumber(to) - dayNumber(from);

/** The local date of an instant in an IANA time zone. */
export const localDay = (instant: Instant, zone: string): Day => dayFromNumber(localDayNumber(instant, zone));

/** The same as days since 1970-01-01. */
export const localDayNumber = (instant: Instant, zone: string): number =>
  Math.floor((instant + zoneOffset(instant, zone)) / MS_PER_DAY);

const QUARTER_HOUR_MS = 900_000;
const MOST_OFFSETS = 200_000;
const offsets = new Map<string, Map<number, number>>();

/** What the zone's clocks show beyond UTC, in milliseconds. Clocks change on quarter hours only, so one answer serves each. */
function zoneOffset(instant: Instant, zone: string): number {
  const quarter = Math.floor(instant / QUARTER_HOUR_MS);
  const ofZone = offsets.get(zone) ?? new Map<number, number>();
  const known = ofZone.get(quarter);
  if (known !== undefined) return known;
  if (ofZone.size >= MOST_OFFSETS) ofZone.clear();
  const offset = -new TZDate(instant, zone).getTimezoneOffset() * 60_000;
  offsets.set(zone, ofZone.set(quarter, offset));
  return offset;
}

/** The first instant of a local date in an IANA time zone (01:00 where midnight is skipped by the clocks). */
export function startOfDay(day: Day, zone: string): Instant {
  const number = dayNumber(day);
  const key = `${zone} ${day}`;
  const known = starts.get(key);
  if (known !== undefined) return known;
  if (starts.size >= MOST_OFFSETS) starts.clear();
  const utc = new Date(number * MS_PER_DAY);
  const start = new TZDate(2000, 0, 1, 0, 0, 0, zone);
  // Set apart, since a constructor takes the years 1 to 99 for 1901 to 1999.
  start.setFullYear(utc.getUTCFullYear(), utc.getUTCMonth(), utc.getUTCDate());
  const instant = start.getTime();
  starts.set(key, instant);
  return instant;
}

/** The instant of a local date and time of day (`HH:MM`) in an IANA time zone; one that the clocks skip is an hour later. */
export function instantOf(day: Day, time: string, zone: string): Instant {
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  const instant = new TZDate(startOfDay(day, zone), zone);
  instant.setHours(hours, minutes);
  return instant.getTime();
}

const starts = new Map<string, Instant>();
