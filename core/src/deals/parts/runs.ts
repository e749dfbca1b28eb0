import type { FactValue } from '../../facts/value.ts';
import type { StageId } from '../../ids.ts';
import type { ProcessDocument } from '../../processes/document.ts';
import type { GoesOn } from '../../steps/step.ts';
import type { Day, Instant } from '../../time/day.ts';
import type { Actor } from '../actor.ts';
import type { FactPart } from './part.ts';
import type { VisitsCarried } from './visits.ts';

/**
 * How a run ended: with a result; with that of an earlier stay (S7); because the deal left the stage forward, or in a way
 * that makes the step pointless: it went back, or the step is gone (S48, S55).
 */
export const RUN_ENDS = ['result', 'carried', 'left', 'withdrawn'] as const;

/** What became of the stage's steps when a run ended. */
export const THREAD_ENDS = ['goes_on', 'finished', 'broken_off'] as const;

export interface RunEnd {
  readonly how: (typeof RUN_ENDS)[number];
  /** The result's id, where there was one. */
  readonly result: string | null;
  /** How it was called then. */
  readonly resultName: string | null;
  readonly thread: (typeof THREAD_ENDS)[number];
  readonly at: Instant;
  readonly day: Day;
  readonly by: Actor;
  /** The move that ended it, or that its result made. */
  readonly moveSeq: number | null;
  /** What the result's actions did, in order. */
  readonly did: readonly ActionDone[];
}

/** What an action of a result did; what it found so already is left out. */
export type ActionDone =
  | { readonly did: 'set_field'; readonly field: string; readonly before: FactValue; readonly after: FactValue }
  | { readonly did: 'tick'; readonly item: string }
  | { readonly did: 'note' }
  /** Which of the deal's tasks it made. */
  | { readonly did: 'add_tasks'; readonly tasks: readonly number[] };

/** When a run goes on by itself, and by which wait and result of its step that was reckoned. */
export interface RunGoesOn extends GoesOn {
  /** Null where it could not: a person has to end it. */
  readonly at: Instant | null;
}

/** One carrying-out of a guided step. */
export interface StepRun {
  readonly seq: number;
  readonly step: string;
  /** How the step was called when it began. */
  readonly name: string;
  /** The stage whose step it is. */
  readonly stage: StageId;
  /** The stay in which it is done; of a step that is owed, the stay that the skip began. */
  readonly visitSeq: number;
  /** Owed from a stage that was skipped. */
  readonly owed: 'no' | 'yes';
  readonly begunAt: Instant;
  readonly begunDay: Day;
  /** It is late from the day after this one. */
  readonly dueDay: Day | null;
  /** Whether that day was counted in working days, and not set by hand, so that it goes with the calendar. */
  readonly inWorkingDays: 'no' | 'yes';
  /** Whom it was passed to, or who took it; null while it falls to whom the step says. */
  readonly assignee: string | null;
  /** Null where it waits for someone. */
  readonly goesOn: RunGoesOn | null;
  /** Null while it is at hand. */
  readonly end: RunEnd | null;
  /** What led to it was taken back, so that it never was. */
  readonly takenBack: 'no' | 'yes';
}

export interface RunsCarried {
  /** In the order in which they began. */
  readonly runs: readonly StepRun[];
}

/** How a step last ended. */
export interface StepEnd {
  readonly result: string;
  readonly day: Day;
}

interface RunsRead {
  /** Stages whose steps are finished; null where that was not recorded. */
  readonly stepsFinished: ReadonlySet<string> | null;
  /** By step; null where that was not recorded. */
  readonly stepResults: Readonly<Record<string, StepEnd>> | null;
}

interface RunsKept {
  readonly stepsFinished?: readonly string[];
  readonly stepResults?: Readonly<Record<string, StepEnd>>;
}

/** Guided steps as they were carried out. */
export const runsPart: FactPart<RunsCarried, RunsRead, RunsKept, RunsCarried & VisitsCarried> = {
  begins: { runs: [] },
  readsOf: ['visits'],
  facts: (deal, { document }) => ({
    stepsFinished: new Set(finishedStages(deal, document)),
    stepResults: stepResults(deal, document),
  }),
  keep: (deal, { document }) => ({
    stepsFinished: finishedStages(deal, document),
    stepResults: stepResults(deal, document),
  }),
  // Moves of the time before steps were recorded kept nothing of them.
  recall: ({ stepsFinished, stepResults: results }) => ({
    stepsFinished: stepsFinished ? new Set(stepsFinished) : null,
    stepResults: results ?? null,
  }),
};

/** Runs that were not taken back, in the order in which they began. */
export const runsThatCount = ({ runs }: RunsCarried): readonly StepRun[] =>
  runs.filter(({ takenBack }) => takenBack === 'no');

/** The run that its thread ended with last, or that is at hand in it. */
export const lastRunOf = (deal: RunsCarried, stage: StageId): StepRun | undefined =>
  runsThatCount(deal).findLast((run) => run.stage === stage);

/** Runs at hand: those that are owed first, the earliest stage's before the others (S48). */
export function runsAtHand(deal: RunsCarried, document: ProcessDocument): readonly StepRun[] {
  const place = new Map(document.stages.map(({ id }, index) => [id, index]));
  return runsThatCount(deal)
    .filter(({ end }) => end === null)
    .sort((a, b) => (place.get(a.stage) ?? -1) - (place.get(b.stage) ?? -1) || a.seq - b.seq);
}

/** Stages whose steps were gone through to an end in the latest stay; one without steps has none to finish. */
function finishedStages(deal: RunsCarried, { stages }: ProcessDocument): readonly string[] {
  return stages
    .filter(({ id, steps }) => steps.length === 0 || lastRunOf(deal, id)?.end?.thread === 'finished')
    .map(({ id }) => id);
}

/** How each step last ended; of one that is done again after a return, in the stage's latest stay (S56). */
function stepResults(
  deal: RunsCarried & VisitsCarried,
  { stages }: ProcessDocument,
): Readonly<Record<string, StepEnd>> {
  const again = new Set(
    stages.flatMap(({ steps }) => steps.filter(({ afterReturn }) => afterReturn === 'again').map(({ id }) => id)),
  );
  const results: Record<string, StepEnd> = {};
  for (const { step, stage, visitSeq, end } of runsThatCount(deal)) {
    if (end === null || end.result === null) continue;
    if (again.has(step) && visitSeq < latestStay(deal, stage)) continue;
    results[step] = { result: end.result, day: end.day };
  }
  return results;
}

/** The stay in which the stage's steps were last begun: its own latest, or the one that a skip over it began. */
const latestStay = (deal: RunsCarried & VisitsCarried, stage: StageId): number =>
  Math.max(
    lastRunOf(deal, stage)?.visitSeq ?? 0,
    deal.visits.findLast((visit) => visit.stage === stage && visit.takenBack === 'no')?.seq ?? 0,
  );
