import { OPEN_ENDED } from '../deals/finding.ts';
import type { Catalogue } from '../facts/field.ts';
import { factsAt, type GateFacts, isOpen } from '../requirements/item.ts';
import { turnsOf } from '../requirements/itemParts.ts';
import { judgeItem } from '../requirements/judgeItem.ts';
import type { GateItem } from '../requirements/kinds.ts';
import type { Instant } from '../time/day.ts';

/** A stretch of time, half-open. */
export interface Period {
  readonly from: Instant;
  readonly to: Instant;
}

/** From when to when, as the clock goes on and nothing else changes, an item is in the way. */
export const openPeriods = (item: GateItem, facts: GateFacts, catalogue: Catalogue): readonly Period[] =>
  periodsWhere([facts.at, ...turnsOf(item, facts)], (at) =>
    isOpen(judgeItem(item, at === facts.at ? facts : factsAt(facts, at), catalogue).state),
  );

/** Periods in which the test holds, given the instants, in order, at which its answer may change; the first is now. */
export function periodsWhere(instants: readonly Instant[], test: (at: Instant) => boolean): readonly Period[] {
  const periods: Period[] = [];
  let from: Instant | null = null;
  for (const at of instants) {
    const holds = test(at);
    if (holds && from === null) from = at;
    if (!holds && from !== null) {
      periods.push({ from, to: at });
      from = null;
    }
  }
  return from === null ? periods : [...periods, { from, to: OPEN_ENDED }];
}

/** The union of periods, in order, those that touch joined. */
export function joinPeriods(periods: readonly Period[]): readonly Period[] {
  const joined: Period[] = [];
  for (const period of [...periods].sort((a, b) => a.from - b.from)) {
    const last = joined.at(-1);
    if (last && period.from <= last.to)
      joined[joined.length - 1] = { from: last.from, to: Math.max(last.to, period.to) };
    else joined.push(period);
  }
  return joined;
}

/** The part of each period that lies before `end`. */
export const cutPeriods = (periods: readonly Period[], end: Instant): readonly Period[] =>
  periods.map(({ from, to }) => ({ from, to: Math.min(to, end) })).filter(({ from, to }) => from < to);

/** The period cut into pieces at the instants that lie inside it. */
export function splitPeriod(period: Period, at: readonly Instant[]): readonly Period[] {
  const inside = [...new Set(at)].filter((instant) => period.from < instant && instant < period.to);
  const bounds = [period.from, ...inside.sort((a, b) => a - b), period.to];
  return bounds.slice(1).map((to, place) => ({ from: bounds[place] as Instant, to }));
}

/** Whether the instant lies in one of the periods. */
export const liesIn = (periods: readonly Period[], at: Instant): boolean =>
  periods.some(({ from, to }) => from <= at && at < to);
