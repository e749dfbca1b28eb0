import type { ActivityCounts } from '../../facts/activityKind.ts';
import type { StageId } from '../../ids.ts';
import { type Day, dayNumber, type Instant } from '../../time/day.ts';
import type { FactPart } from './part.ts';

/** One stay in a stage, half-open in time, so that a same-day move is not counted twice. */
export interface Visit {
  readonly seq: number;
  readonly stage: StageId;
  readonly enteredAt: Instant;
  readonly enteredDay: Day;
  /** Null while the deal is there. */
  readonly left: { readonly at: Instant; readonly day: Day } | null;
  readonly moveOnDay: Day | null;
  /** Whether that day was counted in working days, so that it goes with the calendar. */
  readonly inWorkingDays: 'no' | 'yes';
  /** The move that led here. */
  readonly moveSeq: number;
  readonly takenBack: 'no' | 'yes';
  /** How often each thing was done in it. */
  readonly activityCounts: ActivityCounts;
}

export interface VisitsCarried {
  readonly visits: readonly Visit[];
}

interface VisitsRead {
  /** The day on which the present stay in a stage began, since 1970-01-01. */
  readonly enteredDay: number;
}

interface VisitsKept {
  readonly enteredDay: Day;
}

/** Stays in stages, in order. */
export const visitsPart: FactPart<VisitsCarried, VisitsRead, VisitsKept> = {
  begins: { visits: [] },
  facts: (deal) => ({ enteredDay: dayNumber(presentVisit(deal).enteredDay) }),
  keep: (deal) => ({ enteredDay: presentVisit(deal).enteredDay }),
  recall: ({ enteredDay }) => ({ enteredDay: dayNumber(enteredDay) }),
};

/** The stay the deal is in, or was in when it closed. Every deal has one: it begins with it. */
export function presentVisit({ visits }: VisitsCarried): Visit {
  const visit = visits.findLast(({ takenBack }) => takenBack === 'no');
  if (!visit) throw new Error('The deal has no visit');
  return visit;
}
