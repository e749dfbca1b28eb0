import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../time/day.ts';
import { DAY_GROUPS, type DealDay, dayEntries, daysLateOf } from './dayEntry.ts';
import type { DayItem } from './dayItem.ts';

const TODAY = '2026-11-24';
const ME = 'priya';
const isMine = (person: string): boolean => person === ME;

const step = (dueDay: string | null, person: string | null = ME): DayItem => ({
  kind: 'step',
  run: 1,
  name: 'Load check',
  dueDay,
  owed: 'no',
  person,
});
const task = (dueDay: string, dueTime: string | null = null): DayItem => ({
  kind: 'task',
  task: 1,
  title: 'Ring',
  dueDay,
  dueTime,
  person: ME,
});
const held = (since: string): DayItem => ({ kind: 'held', since, findings: 1, person: ME });
const past = (dueDay: string): DayItem => ({ kind: 'past_target', dueDay, person: ME });
const deal = (id: string, weightedMinor: number, ...items: readonly DayItem[]): DealDay => ({
  deal: id,
  weightedMinor,
  items,
});
const order = (deals: readonly DealDay[], by: 'consequence' | 'due' = 'consequence') =>
  dayEntries(deals, TODAY, by, isMine);
const ids = (entries: ReturnType<typeof order>): readonly string[] => entries.map(({ of }) => of.deal);

describe('a day', () => {
  it('has held deals first, then what is late, due today, coming, and nobody’s last (S59)', () => {
    const deals = [
      deal('coming', 900, step('2026-11-26')),
      deal('nobody', 999, step('2026-11-01', null)),
      deal('today', 800, task(TODAY)),
      deal('late', 1, step('2026-11-23')),
      deal('held', 1, held(TODAY)),
      deal('no day', 5, step(null)),
    ];
    expect(ids(order(deals))).toEqual(['held', 'late', 'today', 'coming', 'no day', 'nobody']);
    expect(order(deals).map(({ group }) => group)).toEqual(['held', 'late', 'today', 'coming', 'coming', 'nobody']);
  });

  it('weighs days late by what is at stake', () => {
    const deals = [
      deal('a', 100, step('2026-11-14')),
      deal('b', 600, step('2026-11-22')),
      deal('c', 0, step('2026-10-01')),
    ];
    expect(ids(order(deals))).toEqual(['b', 'a', 'c']);
    expect(ids(order(deals, 'due'))).toEqual(['c', 'a', 'b']);
  });

  it('has what is due today by its hour, then by what is at stake', () => {
    const deals = [
      deal('later', 9, task(TODAY, '14:00')),
      deal('any', 9, task(TODAY)),
      deal('more', 99, task(TODAY)),
      deal('first', 1, task(TODAY, '09:30')),
    ];
    expect(ids(order(deals))).toEqual(['first', 'later', 'more', 'any']);
  });

  it('shows a deal once, under its strongest reason, with the others beneath', () => {
    const [entry] = order([
      deal('a', 1, past('2026-10-01'), task('2026-11-26'), step('2026-11-22'), step(TODAY, null)),
    ]);
    expect(entry).toMatchObject({ group: 'late', daysLate: 2, item: { kind: 'step', dueDay: '2026-11-22' } });
    expect(entry?.others.map(({ kind }) => kind)).toEqual(['past_target', 'task', 'step']);
  });

  it('leaves out what is others’, and tells what is nobody’s where nothing is mine', () => {
    expect(order([deal('a', 1, step(TODAY, 'oskar'))])).toEqual([]);
    expect(order([deal('a', 1, step(TODAY, 'oskar'), step(TODAY, null))])).toMatchObject([
      { group: 'nobody', others: [] },
    ]);
  });
});

const item = fc.oneof(
  fc.record({ back: fc.integer({ min: -20, max: 20 }) }).map(({ back }) => step(addDays(TODAY, back))),
  fc.integer({ min: -20, max: 20 }).map((ahead) => task(addDays(TODAY, ahead), '10:00')),
  fc.integer({ min: 0, max: 20 }).map((back) => held(addDays(TODAY, -back))),
  fc.integer({ min: 1, max: 20 }).map((back) => past(addDays(TODAY, -back))),
  fc.constant(step(null)),
);
const book = fc
  .array(fc.tuple(fc.nat(1_000), fc.array(item, { minLength: 1, maxLength: 4 })), { maxLength: 30 })
  .map((deals) => deals.map(([weighted, items], place) => deal(`deal ${place}`, weighted, ...items)));

describe('whatever there is to do', () => {
  it('nothing that is late and worth more stands below something that is neither', () => {
    fc.assert(
      fc.property(book, (deals) => {
        const entries = order(deals);
        entries.forEach((below, place) => {
          if (below.daysLate === 0) return;
          for (const above of entries.slice(0, place)) {
            const isNeither = above.daysLate === 0 && above.of.weightedMinor < below.of.weightedMinor;
            expect(isNeither).toBe(false);
          }
        });
      }),
    );
  });

  it('each deal stands once, its parts in their order, in either order the same deals', () => {
    fc.assert(
      fc.property(book, (deals) => {
        const entries = order(deals);
        expect(new Set(ids(entries))).toEqual(new Set(deals.map((one) => one.deal)));
        expect(entries).toHaveLength(deals.length);
        const groups = entries.map(({ group }) => DAY_GROUPS.indexOf(group));
        expect(groups).toEqual(groups.toSorted((a, b) => a - b));
        expect([...ids(order(deals, 'due'))].sort()).toEqual([...ids(entries)].sort());
      }),
    );
  });

  it('is ordered the same whichever way the book was read', () => {
    fc.assert(
      fc.property(book, fc.nat(), (deals, turn) => {
        const at = deals.length === 0 ? 0 : turn % deals.length;
        const turned = [...deals.slice(at), ...deals.slice(0, at)];
        expect(ids(order(turned))).toEqual(ids(order(deals)));
      }),
    );
  });

  it('is late by the days since it was due, a held deal with the day on which that began', () => {
    expect(daysLateOf(step('2026-11-20'), TODAY)).toBe(4);
    expect(daysLateOf(step('2026-11-30'), TODAY)).toBe(0);
    expect(daysLateOf(held(TODAY), TODAY)).toBe(1);
    expect(daysLateOf(held('2026-11-20'), TODAY)).toBe(5);
  });
});
