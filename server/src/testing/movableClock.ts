import type { Clock } from '../clock.ts';

export interface MovableClock extends Clock {
  set(at: number): void;
  pass(ms: number): void;
}

export const MINUTE = 60_000;
export const DAY = 86_400_000;
/** Tuesday 24 November 2026, ten in the morning in London. */
export const START = Date.UTC(2026, 10, 24, 10);

/** A clock that stands still until a test moves it. */
export function movableClock(start = START): MovableClock {
  let now = start;
  return {
    now: () => now,
    set: (at) => {
      now = at;
    },
    pass: (ms) => {
      now += ms;
    },
  };
}
