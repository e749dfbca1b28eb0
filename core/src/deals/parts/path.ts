import type { MoveKind } from '../../gate/route.ts';
import type { StageId } from '../../ids.ts';
import type { Instant } from '../../time/day.ts';
import type { Actor } from '../actor.ts';
import type { DealPart } from './part.ts';

/** A move that counts: taken-back ones are dropped from the path. */
export interface PathStep {
  readonly seq: number;
  readonly kind: MoveKind;
  readonly from: StageId | null;
  readonly to: StageId | null;
  /** The outcome of a closing; left out in paths of the time when there were but two, and told by the kind. */
  readonly outcome?: string;
  readonly over: readonly StageId[];
  /** Requirements that a skip passed over, or a forced move left open: what the finding about how it entered is about (S17). */
  readonly owes: readonly string[];
  /** Those among them that a process which flags skips asks until they are met, wherever the deal goes (S8). */
  readonly skipped: readonly string[];
  /** Requirements judged at the move only that were open when the deal passed (S14). */
  readonly flagged: readonly string[];
  /** For a transfer: until when what the new stage asks flags only (S28). */
  readonly graceUntil: Instant | null;
  /** Requirements that were passed on a waiver; left out in paths of the time before there were any. */
  readonly waived?: readonly string[];
  readonly forced: 'no' | 'yes';
  readonly at: Instant;
  readonly by: Actor;
}

export interface PathCarried {
  readonly path: readonly PathStep[];
  readonly moveCount: number;
}

/** The moves that the deal made, and how many there ever were. */
export const pathPart: DealPart<PathCarried> = {
  // The move that begins it is the first.
  begins: { path: [], moveCount: 1 },
};
