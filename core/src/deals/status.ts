import { OUTCOME_COUNTS, type OutcomeCount } from '../processes/document.ts';
import type { Day, Instant } from '../time/day.ts';

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
    }
  | { readonly state: 'voided'; readonly at: Instant };

/** Whether the deal ended by an outcome. */
export const isClosed = (status: DealStatus): status is Extract<DealStatus, { outcome: string }> => 'outcome' in status;
