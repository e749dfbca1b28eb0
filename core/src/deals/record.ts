import type { Values } from '../facts/value.ts';
import type { GateAnswer } from '../gate/verdict.ts';
import type { Money } from '../money/money.ts';
import type { ItemState } from '../requirements/item.ts';
import type { Day, Instant } from '../time/day.ts';
import type { ActivityKind, Deal, MoveKind } from './deal.ts';
import type { UsedRate } from './exchange.ts';

/** Another deal, named as it was called then. */
export interface DealLink {
  readonly deal: string;
  readonly name: string;
}

/** What a journal entry says; free text stands apart, so that it can be erased with the chain intact (S36). */
export type JournalBody =
  | { readonly kind: 'created' | 'imported'; readonly stage: string; readonly name: string }
  | {
      readonly kind: 'edited';
      readonly changes: readonly { readonly field: string; readonly before: unknown; readonly after: unknown }[];
    }
  | { readonly kind: 'renamed'; readonly before: string; readonly after: string }
  | {
      readonly kind: 'ticked' | 'unticked';
      readonly item: string;
      readonly stage: string | null;
      readonly text: string;
    }
  | {
      readonly kind: 'moved';
      readonly seq: number;
      readonly move: MoveKind;
      readonly from: string | null;
      readonly to: string | null;
      readonly over: readonly string[];
      readonly answer: GateAnswer;
      readonly open: readonly string[];
      readonly forced: 'no' | 'yes';
      readonly reason: string | null;
    }
  | { readonly kind: 'refused'; readonly from: string; readonly target: string; readonly open: readonly string[] }
  | { readonly kind: 'attempt_withdrawn'; readonly target: string }
  | {
      readonly kind: 'taken_back';
      readonly seq: number;
      readonly move: MoveKind;
      readonly from: string | null;
      readonly to: string | null;
    }
  | { readonly kind: 'activity'; readonly activity: ActivityKind }
  | { readonly kind: 'version_changed'; readonly before: string; readonly after: string }
  | { readonly kind: 'follow_up_changed'; readonly before: Day | null; readonly after: Day | null }
  | { readonly kind: 'text_erased'; readonly seq: number }
  | { readonly kind: 'voided'; readonly duplicateOf?: DealLink }
  | { readonly kind: 'merged'; readonly duplicate: DealLink };

export const JOURNAL_KINDS = [
  'created',
  'imported',
  'edited',
  'renamed',
  'ticked',
  'unticked',
  'moved',
  'refused',
  'attempt_withdrawn',
  'taken_back',
  'activity',
  'version_changed',
  'follow_up_changed',
  'text_erased',
  'voided',
  'merged',
] as const satisfies readonly JournalBody['kind'][];

export interface JournalEntry {
  readonly body: JournalBody;
  readonly text: string | null;
  readonly stage: string;
  readonly by: string;
  readonly happenedAt: Instant;
  readonly recordedAt: Instant;
}

/** All the deal's facts at a move, whether its gate asked for them or not (S23). */
export interface Snapshot {
  readonly values: Values;
  readonly partyValues: Values;
  readonly currency: string;
  /** The exchange rates of that day, between the currencies that matter to the deal (S33). */
  readonly rates: readonly UsedRate[];
  readonly ticked: readonly string[];
  readonly activityCounts: Readonly<Record<ActivityKind, number>>;
  readonly closeDateMoves: number;
  readonly enteredDay: Day;
  readonly lastActivityDay: Day | null;
  readonly today: Day;
}

/** A verdict as it is kept: states by requirement; the words are made when it is read. */
export interface KeptVerdict {
  readonly answer: GateAnswer;
  readonly items: readonly {
    readonly id: string;
    readonly level: string;
    readonly state: ItemState;
    readonly passedOver: boolean;
  }[];
}

export interface MoveRecord {
  readonly seq: number;
  readonly kind: MoveKind;
  readonly from: string | null;
  readonly to: string | null;
  readonly over: readonly string[];
  readonly happenedAt: Instant;
  readonly recordedAt: Instant;
  readonly day: Day;
  /** Days of the stay that the move ended; null at the start. */
  readonly stayDays: number | null;
  /** Whether that stay had lasted longer than its target. */
  readonly targetDays: number | null;
  readonly by: string;
  readonly forced: 'no' | 'yes';
  readonly reason: string | null;
  readonly version: string;
  readonly owner: string | null;
  readonly team: string | null;
  readonly source: string | null;
  readonly value: Money | null;
  readonly reportingMinor: number | null;
  readonly verdict: KeptVerdict;
  readonly snapshot: Snapshot;
}

export interface RefusalRecord {
  readonly from: string;
  readonly target: string;
  readonly day: Day;
  readonly at: Instant;
  readonly by: string;
  readonly verdict: KeptVerdict;
  readonly snapshot: Snapshot;
}

export interface ActivityRecord {
  readonly kind: ActivityKind;
  readonly happenedAt: Instant;
  readonly recordedAt: Instant;
  readonly by: string;
  /** The activity before it, so that "days since" can be answered for any past day. */
  readonly previousAt: Instant | null;
}

/** Something to be written beside the deal itself. */
export type DealRecord =
  | { readonly kind: 'journal'; readonly entry: JournalEntry }
  | { readonly kind: 'move'; readonly move: MoveRecord }
  | { readonly kind: 'move_taken_back'; readonly seq: number; readonly at: Instant; readonly by: string }
  | { readonly kind: 'refusal'; readonly refusal: RefusalRecord }
  | { readonly kind: 'activity'; readonly activity: ActivityRecord };

/** A command's outcome: the deal after it, and what is to be recorded. */
export interface Change {
  readonly deal: Deal;
  readonly records: readonly DealRecord[];
}
