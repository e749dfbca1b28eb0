import type { DealId, ProcessId, VersionId } from '../ids.ts';
import { OUTCOME_COUNTS, type OutcomeCount } from '../processes/document.ts';
import type { Day, Instant } from '../time/day.ts';
import type { Carried, DealPartName } from './parts.ts';

/** What a deal's status may say. */
export const DEAL_STATES = ['open', ...OUTCOME_COUNTS, 'voided'] as const;

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

/** What every reader of a deal knows of it. */
export interface DealHead {
  readonly id: DealId;
  readonly process: ProcessId;
  readonly version: VersionId;
  readonly externalId: string | null;
  readonly name: string;
  readonly status: DealStatus;
  readonly createdAt: Instant;
  readonly revision: number;
  /** When the newest record about the deal was written: nothing is recorded before it, whatever a clock says. */
  readonly settledAt: Instant;
}

/** A deal of which just the named parts were read. */
export type DealWith<Name extends DealPartName> = DealHead & Carried<Name>;

/**
 * A deal with what a command needs to decide; lists may leave out what has ended before the moment of the command, but
 * for the versions that it followed.
 */
export type Deal = DealWith<DealPartName>;
