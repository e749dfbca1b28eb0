import type { DealId, ProcessId, VersionId } from '../ids.ts';
import type { Instant } from '../time/day.ts';
import type { Carried, DealPartName } from './parts.ts';
import type { DealStatus } from './status.ts';

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

/** A deal with what a command needs to decide; lists may leave out what no command can change any more. */
export type Deal = DealWith<DealPartName>;
