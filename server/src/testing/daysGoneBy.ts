import { DAY } from './movableClock.ts';

/** The first of the days that a test lives through to look back on them. */
export const FIRST = Date.UTC(2026, 10, 24);

/** The day so many after the first: London's days are those of UTC in winter. */
export const dayOf = (place: number): string => new Date(FIRST + place * DAY).toISOString().slice(0, 10);
