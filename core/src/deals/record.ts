import type { JournalBody } from '../events/kinds.ts';
import type { ActivityKind } from '../facts/activityKind.ts';
import type { MoveKind } from '../gate/route.ts';
import type { KeptVerdict } from '../gate/verdict.ts';
import type { StageId, VersionId } from '../ids.ts';
import type { Money } from '../money/money.ts';
import type { MessageHow } from '../steps/step.ts';
import type { Day, Instant } from '../time/day.ts';
import type { Actor } from './actor.ts';
import type { Deal } from './deal.ts';
import type { Snapshot } from './dealFacts.ts';

export interface JournalEntry {
  readonly body: JournalBody;
  readonly text: string | null;
  readonly stage: StageId;
  readonly by: Actor;
  readonly happenedAt: Instant;
  readonly recordedAt: Instant;
}

export interface MoveRecord {
  readonly seq: number;
  readonly kind: MoveKind;
  readonly from: StageId | null;
  readonly to: StageId | null;
  /** The outcome of a closing. */
  readonly outcome: string | null;
  readonly over: readonly StageId[];
  readonly happenedAt: Instant;
  readonly recordedAt: Instant;
  readonly day: Day;
  /** Days of the stay that the move ended; null at the start. */
  readonly stayDays: number | null;
  /** Whether that stay had lasted longer than its target. */
  readonly targetDays: number | null;
  readonly by: Actor;
  readonly forced: 'no' | 'yes';
  readonly reason: string | null;
  readonly version: VersionId;
  readonly owner: string | null;
  readonly team: string | null;
  readonly source: string | null;
  readonly value: Money | null;
  readonly reportingMinor: number | null;
  readonly verdict: KeptVerdict;
  readonly snapshot: Snapshot;
}

export interface RefusalRecord {
  readonly from: StageId;
  readonly target: string;
  readonly day: Day;
  readonly at: Instant;
  readonly by: Actor;
  readonly verdict: KeptVerdict;
  readonly snapshot: Snapshot;
}

export interface ActivityRecord {
  readonly kind: ActivityKind;
  readonly happenedAt: Instant;
  readonly recordedAt: Instant;
  readonly by: Actor;
  /** The activity before it, so that "days since" can be answered for any past day. */
  readonly previousAt: Instant | null;
}

/** Something to be written beside the deal itself. */
export type DealRecord =
  | { readonly kind: 'journal'; readonly entry: JournalEntry }
  | { readonly kind: 'move'; readonly move: MoveRecord }
  | { readonly kind: 'move_taken_back'; readonly seq: number; readonly at: Instant; readonly by: Actor }
  /** The closing that was this move counts no longer from then on: the deal goes on. */
  | { readonly kind: 'closing_reopened'; readonly seq: number; readonly at: Instant }
  | { readonly kind: 'refusal'; readonly refusal: RefusalRecord }
  | { readonly kind: 'activity'; readonly activity: ActivityRecord }
  /** A message that is to be prepared of a template, once the deal is as it is after the change. */
  | {
      readonly kind: 'message';
      readonly template: string;
      readonly how: MessageHow;
      readonly by: Actor;
      readonly at: Instant;
    };

/** A command's outcome: the deal after it, and what is to be recorded. */
export interface Change {
  readonly deal: Deal;
  readonly records: readonly DealRecord[];
}
