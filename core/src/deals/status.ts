import type { Money } from '../money/money.ts';
import { OUTCOME_COUNTS, type OutcomeCount } from '../processes/document.ts';
import type { Day, Instant } from '../time/day.ts';

/** What was expected of a deal until it was won: its value, and the day on which it would close. */
export interface Estimate {
  readonly value: Money | null;
  readonly day: Day | null;
}

/** What a deal's status may say. */
export const DEAL_STATUSES = ['open', ...OUTCOME_COUNTS, 'voided'] as const;

export type DealStatus =
  | { readonly state: 'open' }
  | {
      /** What the outcome counts as. */
      readonly state: OutcomeCount;
      readonly outcome: string;
      readonly at: Instant;
      readonly day: Day;
      readonly reason: string | null;
      readonly followUp: Day | null;
      /** Of a deal that was won; its value and close date say how it was won since. Null of others, and where none was kept. */
      readonly estimate: Estimate | null;
    }
  | { readonly state: 'voided'; readonly at: Instant };

/** Whether the deal ended by an outcome. */
export const isClosed = (status: DealStatus): status is Extract<DealStatus, { outcome: string }> => 'outcome' in status;
