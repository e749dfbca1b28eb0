import { addDays, dayNumber } from '@ladder/core';

export const VIEWS = ['week', 'month'] as const;
export type View = (typeof VIEWS)[number];

/** 0 is a Monday: 1970-01-01 was a Thursday. */
const weekdayOf = (day: string): number => (((dayNumber(day) + 3) % 7) + 7) % 7;

const mondayOf = (day: string): string => addDays(day, -weekdayOf(day));

const monthOf = (day: string): string => day.slice(0, 7);

/** The days that a view shows around a day: its week from Monday on, or the whole weeks that its month lies in. */
export function daysOf(view: View, on: string): readonly string[] {
  const first = mondayOf(view === 'week' ? on : `${monthOf(on)}-01`);
  const days: string[] = [];
  for (let day = first; days.length < 7 || (view === 'month' && monthOf(day) === monthOf(on)); ) {
    for (let weekday = 0; weekday < 7; weekday++) days.push(addDays(day, weekday));
    day = addDays(day, 7);
  }
  return days;
}

/** A day in the week or month before, or after. */
export function turned(view: View, on: string, by: -1 | 1): string {
  if (view === 'week') return addDays(on, by * 7);
  const first = `${monthOf(on)}-01`;
  return by === 1 ? `${monthOf(addDays(first, 32))}-01` : `${monthOf(addDays(first, -1))}-01`;
}
