import { ok, type Result } from '../result.ts';
import type { Step } from './change.ts';

/** One step of two: what the second makes of the deal as the first left it, with the records of both; or why one of them cannot be made. */
export const andThen =
  <First, Second>(first: Step<First>, second: Step<Second>): Step<First | Second> =>
  (deal, moment) => {
    const made = first(deal, moment);
    if (!made.ok) return made;
    const next: Result<{ deal: typeof deal; records: typeof made.value.records }, Second> = second(
      made.value.deal,
      moment,
    );
    return next.ok ? ok({ deal: next.value.deal, records: [...made.value.records, ...next.value.records] }) : next;
  };
