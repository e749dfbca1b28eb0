import { describe, expect, it } from 'vitest';
import { dayOf, shortDay, shortMoney } from './format.ts';
import { toneOf } from './tone.ts';

describe('figures as they are shown', () => {
  it('tells amounts in three digits or so', () => {
    expect(
      [
        [14_000_000, 'GBP'],
        [225_000_000, 'GBP'],
        [3_610_000_000, 'GBP'],
        [29_829_000_000, 'GBP'],
        [238_723_000_000, 'GBP'],
        [95_000, 'GBP'],
        [5_000, 'JPY'],
        [99_960_000, 'GBP'],
      ].map(([minor, currency]) => shortMoney(Number(minor), String(currency))),
    ).toEqual(['£140k', '£2.25m', '£36.1m', '£298m', '£2.39bn', '£950', '¥5k', '£1.00m']);
  });

  it('tells days in the organisation’s zone, with the year where it is another', () => {
    expect(dayOf('2026-10-11T23:00:00.000Z', { timeZone: 'Europe/London' })).toBe('2026-10-12');
    expect([shortDay('2026-12-18', '2026-11-24'), shortDay('2027-01-04', '2026-11-24')]).toEqual([
      '18 Dec',
      '4 Jan 2027',
    ]);
  });

  it('deepens a stage’s tone with its place, from the lightest to the deepest', () => {
    const tones = [0, 1, 2, 3].map((place) => toneOf(place, 4));
    expect(tones.map(({ style }) => Object.values(style)[0])).toEqual([
      'var(--tone-1)',
      'var(--tone-3)',
      'var(--tone-5)',
      'var(--tone-7)',
    ]);
    expect(tones.at(-1)?.className).toBe('deep');
  });
});
