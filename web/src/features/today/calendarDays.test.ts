import { describe, expect, it } from 'vitest';
import { daysOf, turned } from './calendarDays.ts';

describe('the days of a calendar', () => {
  it('are a week from Monday on (ISO 8601), across the turn of a year too', () => {
    expect(daysOf('week', '2026-11-24')).toEqual(daysOf('week', '2026-11-29'));
    expect([daysOf('week', '2026-11-24')[0], daysOf('week', '2026-11-24').at(-1)]).toEqual([
      '2026-11-23',
      '2026-11-29',
    ]);
    expect(daysOf('week', '2027-01-01')[0]).toBe('2026-12-28');
  });

  it('are the whole weeks that a month lies in', () => {
    const november = daysOf('month', '2026-11-24');
    expect([november.length, november[0], november.at(-1)]).toEqual([42, '2026-10-26', '2026-12-06']);
    // February 2027 begins on a Monday, and has four weeks.
    expect(daysOf('month', '2027-02-10')).toHaveLength(28);
    expect(daysOf('month', '2026-12-31').at(-1)).toBe('2027-01-03');
  });

  it('turn by a week or a month, whatever the month’s length', () => {
    expect(turned('week', '2026-11-24', 1)).toBe('2026-12-01');
    expect(turned('month', '2026-01-31', 1)).toBe('2026-02-01');
    expect(turned('month', '2026-03-31', -1)).toBe('2026-02-01');
    expect(turned('month', '2026-12-05', 1)).toBe('2027-01-01');
  });
});
