import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addWorkingDays,
  type Calendar,
  calendarDaysOf,
  isWorkingDay,
  MONDAY_TO_FRIDAY,
  moveOnDay,
  recountedDay,
} from './calendar.ts';
import { addDays, type Day, dayFromNumber, dayNumber, daysBetween, localDay, parseDay, startOfDay } from './day.ts';

/**
 * Working days from `from` to `to`, both ends counted; negative where `to` comes first.
 * This is the count that spreadsheets call NETWORKDAYS (OpenDocument 1.2 part 2, 6.10.14).
 */
function countWorkingDays(from: Day, to: Day, calendar: Calendar): number {
  const [low, high] = [dayNumber(from), dayNumber(to)].sort((a, b) => a - b) as [number, number];
  let count = 0;
  for (let number = low; number <= high; number++) if (isWorkingDay(dayFromNumber(number), calendar)) count++;
  return dayNumber(from) <= dayNumber(to) ? count : 0 - count;
}

describe('days', () => {
  it('refuses days that do not exist', () => {
    for (const text of ['2026-02-30', '2025-02-29', '2026-13-01', '2026-00-10', '26-01-01', '2026-1-1', '0000-01-01'])
      expect(parseDay(text)).toBeNull();
    expect(parseDay('2024-02-29')).not.toBeNull();
  });

  it('counts from 6 to 24 November as 18 (S4)', () => {
    expect(daysBetween('2026-11-06', '2026-11-24')).toBe(18);
    expect(moveOnDay('2026-11-06', { days: 20, counting: 'calendar' }, MONDAY_TO_FRIDAY)).toBe('2026-11-26');
  });

  it('takes the local date in the zone, on either side of a change of clocks', () => {
    expect(localDay(Date.UTC(2026, 5, 30, 23, 30), 'Europe/London')).toBe('2026-07-01');
    expect(localDay(Date.UTC(2026, 11, 31, 23, 30), 'Europe/London')).toBe('2026-12-31');
    expect(localDay(Date.UTC(2026, 0, 1, 5), 'America/New_York')).toBe('2026-01-01');
    expect(new Date(startOfDay('2026-03-29', 'Europe/London')).toISOString()).toBe('2026-03-29T00:00:00.000Z');
    expect(new Date(startOfDay('2026-03-30', 'Europe/London')).toISOString()).toBe('2026-03-29T23:00:00.000Z');
  });

  it('a local day begins at its start and not a moment before, in every zone', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10_000, max: 30_000 }),
        fc.constantFrom('Europe/London', 'America/Sao_Paulo', 'Asia/Kolkata', 'Pacific/Auckland', 'UTC'),
        (number, zone) => {
          const day = dayFromNumber(number);
          const start = startOfDay(day, zone);
          expect(localDay(start, zone)).toBe(day);
          expect(localDay(start - 1, zone)).toBe(addDays(day, -1));
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('working days', () => {
  /* OpenDocument 1.2 part 2, 6.10.14 and 6.10.23 define the functions; the dates are the usual worked example, from memory:
     1 October 2012 to 1 March 2013 holds 110 working days, 109 with 22 November a holiday, 107 with 4 December and 21 January too. */
  it('agree with the spreadsheet functions', () => {
    const withHolidays = (...holidays: string[]) => ({ ...MONDAY_TO_FRIDAY, holidays });
    expect(countWorkingDays('2012-10-01', '2013-03-01', MONDAY_TO_FRIDAY)).toBe(110);
    expect(countWorkingDays('2012-10-01', '2013-03-01', withHolidays('2012-11-22'))).toBe(109);
    expect(countWorkingDays('2012-10-01', '2013-03-01', withHolidays('2012-11-22', '2012-12-04', '2013-01-21'))).toBe(
      107,
    );
    expect(addWorkingDays('2008-10-01', 151, MONDAY_TO_FRIDAY)).toBe('2009-04-30');
    expect(addWorkingDays('2008-10-01', 151, withHolidays('2008-11-26', '2008-12-04', '2009-01-21'))).toBe(
      '2009-05-05',
    );
  });

  it('a target in working days is on average so many calendar days, and exactly so for whole weeks', () => {
    const working = (days: number) => ({ days, counting: 'working' }) as const;
    expect([5, 15, 7, 1].map((days) => calendarDaysOf(working(days), MONDAY_TO_FRIDAY))).toEqual([7, 21, 10, 1]);
    expect(calendarDaysOf({ days: 15, counting: 'calendar' }, MONDAY_TO_FRIDAY)).toBe(15);
    expect(calendarDaysOf(working(3), { workingWeekdays: [], holidays: [] })).toBe(3);
    for (const entered of ['2026-11-23', '2026-11-26', '2026-11-27'])
      expect(daysBetween(entered, addWorkingDays(entered, 15, MONDAY_TO_FRIDAY))).toBe(21);
  });

  it('agree with counting day by day on a calendar of any working week and holidays', () => {
    const week = fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 });
    const someDay = fc.integer({ min: 20_000, max: 20_200 });
    fc.assert(
      fc.property(
        week,
        fc.array(someDay, { maxLength: 12 }),
        someDay,
        fc.integer({ min: 0, max: 90 }),
        (workingWeekdays, off, first, length) => {
          const calendar = { workingWeekdays, holidays: off.map(dayFromNumber) };
          let byHand = 0;
          for (let number = first; number <= first + length; number++) {
            const weekday = new Date(`${dayFromNumber(number)}T12:00:00Z`).getUTCDay() || 7;
            if (workingWeekdays.includes(weekday) && !off.includes(number)) byHand++;
          }
          const [from, to] = [dayFromNumber(first), dayFromNumber(first + length)];
          expect(countWorkingDays(from, to, calendar)).toBe(byHand);
          expect(countWorkingDays(to, from, calendar)).toBe(length === 0 ? byHand : 0 - byHand);
        },
      ),
    );
  });

  it('adding and counting agree, forward and back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 15_000, max: 25_000 }), fc.integer({ min: 1, max: 60 }), (number, days) => {
        const start = dayFromNumber(number);
        const end = addWorkingDays(start, days, MONDAY_TO_FRIDAY);
        expect(countWorkingDays(dayFromNumber(dayNumber(start) + 1), end, MONDAY_TO_FRIDAY)).toBe(days);
        expect(dayNumber(addWorkingDays(end, -days, MONDAY_TO_FRIDAY))).toBeLessThanOrEqual(dayNumber(start));
      }),
    );
  });

  it('counted by another calendar keep as many working days ahead; what is due today or was stays', () => {
    const calendars = fc
      .tuple(fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 }), fc.array(fc.integer({ min: 20_000, max: 20_100 })))
      .map(([workingWeekdays, off]) => ({ workingWeekdays, holidays: off.map(dayFromNumber) }));
    const someDay = fc.integer({ min: 20_000, max: 20_100 }).map(dayFromNumber);
    fc.assert(
      fc.property(calendars, calendars, someDay, fc.integer({ min: 1, max: 40 }), (before, after, today, days) => {
        const due = addWorkingDays(today, days, before);
        const recounted = recountedDay(due, today, before, after);
        expect(countWorkingDays(dayFromNumber(dayNumber(today) + 1), recounted, after)).toBe(days);
        expect(recountedDay(due, today, before, before)).toBe(due);
        // Taken back on the same day, it is as it was.
        expect(recountedDay(recounted, today, after, before)).toBe(due);
        expect(recountedDay(today, today, before, after)).toBe(today);
        expect(recountedDay(dayFromNumber(dayNumber(today) - days), today, before, after) < today).toBe(true);
      }),
    );
  });
});
