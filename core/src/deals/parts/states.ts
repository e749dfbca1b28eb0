import type { StageId } from '../../ids.ts';
import type { Day, Instant } from '../../time/day.ts';
import type { Standing } from '../finding.ts';
import type { DealStatus } from '../status.ts';
import type { DealPart } from './part.ts';

/** What lists, lanes and measures ask of a deal (S22). */
export interface StateAsked {
  readonly status: DealStatus['state'];
  readonly stage: StageId;
  readonly enteredAt: Instant;
  readonly enteredDay: Day;
  /** It is past its target from the day after this one. */
  readonly moveOnDay: Day | null;
  readonly owner: string | null;
  readonly team: string | null;
  /** In minor units of the currency. */
  readonly value: number | null;
  readonly currency: string;
  readonly closeDate: Day | null;
  readonly standing: Standing;
  readonly findings: number;
  /** The kinds of the findings in order, each as often as it is found, as one text: states of the same are told apart at once. */
  readonly kinds: string;
  /** Those of the findings that it owes, or of how it entered. */
  readonly owed: number;
}

/**
 * What was so of a deal from an instant up to and without another. Those to come lie in the future, where only the clock
 * turns them, so that now and any past day are read alike.
 */
export interface DealState extends StateAsked {
  readonly from: Instant;
  readonly to: Instant;
}

export interface StatesCarried {
  /** In order and without a gap, from the present stay on at least. */
  readonly states: readonly DealState[];
}

export const statesPart: DealPart<StatesCarried> = { begins: { states: [] } };
