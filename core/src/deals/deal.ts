import type { ActivityKind } from '../events/activity.ts';
import type { FactValue, Values } from '../facts/value.ts';
import type { MoveKind } from '../gate/route.ts';
import type { Day, Instant } from '../time/day.ts';
import type { Finding } from './finding.ts';

/** One stay in a stage, half-open in time, so that a same-day move is not counted twice. */
export interface Visit {
  readonly seq: number;
  readonly stage: string;
  readonly enteredAt: Instant;
  readonly enteredDay: Day;
  /** Null while the deal is there. */
  readonly leftAt: Instant | null;
  readonly leftDay: Day | null;
  readonly moveOnDay: Day | null;
  /** The move that led here. */
  readonly moveSeq: number;
  readonly takenBack: 'no' | 'yes';
}

/** A move that counts: taken-back ones are dropped from the path. */
export interface PathStep {
  readonly seq: number;
  readonly kind: MoveKind;
  readonly from: string | null;
  readonly to: string | null;
  readonly over: readonly string[];
  /** Requirements that a skip passed over, or a forced move left open: what the finding about how it entered is about (S17). */
  readonly owes: readonly string[];
  /** Those among them that a process which flags skips asks until they are met, wherever the deal goes (S8). */
  readonly skipped: readonly string[];
  /** Requirements judged at the move only that were open when the deal passed (S14). */
  readonly flagged: readonly string[];
  /** For a transfer: until when what the new stage asks flags only (S28). */
  readonly graceUntil: Instant | null;
  readonly forced: 'no' | 'yes';
  readonly at: Instant;
  readonly by: string;
}

export interface Tick {
  readonly item: string;
  readonly visitSeq: number;
  readonly at: Instant;
  readonly by: string;
  /** When it was unticked; null while it stands. */
  readonly untickedAt: Instant | null;
}

/** Facts kept as dated intervals (S22). */
export const SPAN_ASPECTS = ['owner', 'team', 'value', 'close_date', 'version'] as const;
export type SpanAspect = (typeof SPAN_ASPECTS)[number];

export interface Span {
  readonly aspect: SpanAspect;
  readonly value: FactValue;
  readonly from: Instant;
  /** Null while it is so. */
  readonly to: Instant | null;
}

/** A forward move that was refused and whose gate still fails. */
export interface Attempt {
  readonly target: string;
  readonly at: Instant;
  readonly by: string;
}

export interface Waiver {
  readonly requirement: string;
  readonly from: Instant;
  readonly to: Instant;
}

export type DealStatus =
  | { readonly state: 'open' }
  | {
      readonly state: 'won' | 'lost';
      readonly at: Instant;
      readonly day: Day;
      readonly reason: string | null;
      readonly followUp: Day | null;
    }
  | { readonly state: 'voided'; readonly at: Instant };

/**
 * A deal with what a command needs to decide; lists may leave out what has ended before the moment of the command, but
 * for the versions that it followed.
 */
export interface Deal {
  readonly id: string;
  readonly process: string;
  readonly version: string;
  readonly externalId: string | null;
  readonly name: string;
  readonly status: DealStatus;
  /** ISO 4217; chosen when the deal is begun, and that of its value once there is one (S33). */
  readonly currency: string;
  /** The deal's own values, built-in fields among them. */
  readonly values: Values;
  /** The customer's and the contact's values, which criteria may read. */
  readonly partyValues: Values;
  readonly createdAt: Instant;
  readonly revision: number;
  readonly lastActivityAt: Instant | null;
  readonly activityCounts: Readonly<Record<ActivityKind, number>>;
  readonly closeDateMoves: number;
  readonly moveCount: number;
  readonly path: readonly PathStep[];
  readonly visits: readonly Visit[];
  readonly ticks: readonly Tick[];
  readonly findings: readonly Finding[];
  readonly spans: readonly Span[];
  readonly waivers: readonly Waiver[];
  readonly attempt: Attempt | null;
  /** When the newest record about the deal was written: nothing is recorded before it, whatever a clock says. */
  readonly settledAt: Instant;
}

export const NO_ACTIVITY: Readonly<Record<ActivityKind, number>> = {
  note: 0,
  call: 0,
  message: 0,
  meeting: 0,
  visit: 0,
};

/** The stay the deal is in, or was in when it closed. */
export function presentVisit(deal: Deal): Visit {
  const visit = deal.visits.findLast(({ takenBack }) => takenBack === 'no');
  if (!visit) throw new Error(`Deal ${deal.id} has no visit`);
  return visit;
}

/** Text of a built-in or own field, or null. */
export function textValue(deal: Pick<Deal, 'values'>, field: string): string | null {
  const value = deal.values[field];
  return typeof value === 'string' ? value : null;
}
