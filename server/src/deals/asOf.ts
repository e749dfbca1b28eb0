import { addDays, type Day, localDay, startOfDay } from '@ladder/core';
import { invalid } from '../problems/problem.ts';

/** The day that something is told of. */
export interface AsOf {
  readonly today: Day;
  readonly on: Day;
  /** Its last instant where it has gone by; null for today. */
  readonly end: number | null;
}

/** The day that was asked for under a name, today where none was. Throws for one to come. */
export function asOf(asked: Day | undefined, now: number, zone: string, name = 'on'): AsOf {
  const today = localDay(now, zone);
  const on = asked ?? today;
  if (on > today) throw invalid([{ pointer: `/query/${name}`, detail: 'Today or a day before.' }]);
  return { today, on, end: on < today ? startOfDay(addDays(on, 1), zone) - 1 : null };
}
