import type { StageId } from '../ids.ts';
import { countedMedian, type DayCountRow } from './countedMedian.ts';
import { type Share, wilson } from './wilson.ts';

/** Counts of one stage as the database reduces the moves of a period: how often it was entered, and left which way. */
export interface StageCounts {
  readonly stage: StageId;
  readonly entered: number;
  readonly movedOn: number;
  readonly lost: number;
  readonly returned: number;
  /** Lengths of the stays that ended. */
  readonly stays: readonly DayCountRow[];
  readonly openDeals: number;
  readonly openPastTarget: number;
}

export interface StageMovement extends Omit<StageCounts, 'stays'> {
  /** Moved on, of all stays that ended. */
  readonly movedOnShare: Share | null;
  readonly medianDays: number | null;
  readonly staysEnded: number;
}

/** A stage's figures from its counts. */
export function stageMovement({ stays, ...counts }: StageCounts): StageMovement {
  const ended = counts.movedOn + counts.lost + counts.returned;
  return {
    ...counts,
    staysEnded: ended,
    movedOnShare: wilson(counts.movedOn, ended),
    medianDays: countedMedian(stays),
  };
}
