import { type Day, dayFromNumber, dayNumber } from './day.ts';

/** Which days count as working days: weekdays 1 (Monday) to 7 (Sunday), less the holidays. */
export interface Calendar {
  readonly workingWeekdays: readonly number[];
  readonly holidays: readonly Day[];
}

/** A day that is no working day, and what it is called. */
export interface Holiday {
  readonly day: Day;
  readonly name: string;
}

/** Days are counted one by one, or working days only. */
export type DayCount = 'calendar' | 'working';

export interface Target {
  readonly days: number;
  readonly counting: DayCount;
}

export const MONDAY_TO_FRIDAY: Calendar = { workingWeekdays: [1, 2, 3, 4, 5], holidays: [] };

const weekdayOf = (number: number): number => ((((number + 3) % 7) + 7) % 7) + 1;

/** Whether `day` is a working day of the calendar. */
export function isWorkingDay(day: Day, calendar: Calendar): boolean {
  return calendar.workingWeekdays.includes(weekdayOf(dayNumber(day))) && !holidaysOf(calendar).has(day);
}

const known = new WeakMap<Calendar, ReadonlySet<Day>>();

/** Calendars never change, and days are counted one by one. */
function holidaysOf(calendar: Calendar): ReadonlySet<Day> {
  const holidays = known.get(calendar) ?? new Set(calendar.holidays);
  known.set(calendar, holidays);
  return holidays;
}

/**
 * The day that lies `days` working days after `day`, which itself is not counted
 * (WORKDAY of OpenDocument 1.2 part 2, 6.10.23). A calendar without working days gives `day` back.
 */
export function addWorkingDays(day: Day, days: number, calendar: Calendar): Day {
  if (calendar.workingWeekdays.length === 0) return day;
  const step = days < 0 ? -1 : 1;
  let number = dayNumber(day);
  for (let left = Math.abs(days); left > 0; ) {
    number += step;
    if (isWorkingDay(dayFromNumber(number), calendar)) left--;
  }
  return dayFromNumber(number);
}

/**
 * A target as calendar days, holidays aside: what stays, which are counted in calendar days, are held against on an axis
 * or beside a median. Fifteen working days of a five-day week are 21.
 */
export function calendarDaysOf(target: Target, calendar: Calendar): number {
  const { length: working } = calendar.workingWeekdays;
  return target.counting === 'calendar' || working === 0 ? target.days : Math.round((target.days * 7) / working);
}

/** The day by which a deal that entered on `entered` should move on; the entry day is not counted. */
export function moveOnDay(entered: Day, target: Target, calendar: Calendar): Day {
  return target.counting === 'working'
    ? addWorkingDays(entered, target.days, calendar)
    : dayFromNumber(dayNumber(entered) + target.days);
}

/** Whether a day that is counted so goes with the calendar. */
export const inWorkingDays = (target: Target | null): 'no' | 'yes' =>
  target?.counting === 'working' && target.days > 0 ? 'yes' : 'no';

/** Working days from the day after `from` up to and with `to`; 0 where that lies no later. */
export function workingDaysBetween(from: Day, to: Day, calendar: Calendar): number {
  let count = 0;
  for (let number = dayNumber(from) + 1; number <= dayNumber(to); number++)
    if (isWorkingDay(dayFromNumber(number), calendar)) count++;
  return count;
}

/**
 * A day that was counted by one calendar, as it is by another from today on: as many working days stay ahead as did. What is
 * due today or was before stays, and so does a day with no working day ahead of it.
 */
export function recountedDay(day: Day, today: Day, before: Calendar, after: Calendar): Day {
  const ahead = workingDaysBetween(today, day, before);
  return ahead === 0 ? day : addWorkingDays(today, ahead, after);
}
