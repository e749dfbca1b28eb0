import type { Deal } from '../deals/deal.ts';
import { presentVisit, type Visit } from '../deals/parts/visits.ts';
import type { Setting } from '../deals/setting.ts';
import { type ActivityCounts, NO_ACTIVITY } from '../facts/activityKind.ts';
import type { StageId } from '../ids.ts';
import { stageOf } from '../processes/document.ts';
import { inWorkingDays, moveOnDay } from '../time/calendar.ts';
import { type Instant, localDay } from '../time/day.ts';
import { beginThread, restoreThreads, type When } from './thread.ts';

/*
 * The only functions that begin, end and resume a stay. So no command leaves a deal in a stage that its version lacks
 * (S11), and no stay ends before it begins.
 */

/** The deal in a new stay, with the day by which it should end, and the stage's steps begun. Throws where the version has no such stage. */
export function beginStay(deal: Deal, stage: StageId, moveSeq: number, when: When, setting: Setting): Deal {
  requireStage(stage, setting);
  const { at } = when;
  const enteredDay = localDay(at, setting.zone);
  const target = stageOf(setting.document, stage)?.target ?? null;
  const visit: Visit = {
    seq: deal.visits.length + 1,
    stage,
    enteredAt: at,
    enteredDay,
    left: null,
    moveSeq,
    takenBack: 'no',
    activityCounts: NO_ACTIVITY,
    moveOnDay: target && moveOnDay(enteredDay, target, setting.calendar),
    inWorkingDays: inWorkingDays(target),
  };
  const entered = { ...deal, visits: [...deal.visits, visit] };
  return beginThread(entered, { stage, visitSeq: visit.seq, owed: 'no' }, when, setting);
}

/** The deal after its present stay has ended. */
export function endStay(deal: Deal, at: Instant, setting: Setting): Deal {
  const present = presentVisit(deal);
  const leftAt = Math.max(at, present.enteredAt);
  return withVisit(deal, present, { ...present, left: { at: leftAt, day: localDay(leftAt, setting.zone) } });
}

/**
 * The deal as if the stay that a move began had never been, and the one before it went on. Throws where the version no
 * longer has that stage: whoever asks has been told so before.
 */
export function resumeStay(deal: Deal, moveSeq: number, setting: Setting): Deal {
  const undone = deal.visits.find((visit) => visit.moveSeq === moveSeq && visit.takenBack === 'no');
  const without = undone ? withVisit(deal, undone, takenBack(undone)) : deal;
  const present = presentVisit(without);
  requireStage(present.stage, setting);
  // What was done meanwhile was done in the stay that goes on.
  const activityCounts = undone ? sumOf(present.activityCounts, undone.activityCounts) : present.activityCounts;
  return restoreThreads(withVisit(without, present, { ...present, activityCounts, left: null }), moveSeq, undone);
}

const takenBack = (visit: Visit): Visit => ({
  ...visit,
  takenBack: 'yes',
  left: visit.left ?? { at: visit.enteredAt, day: visit.enteredDay },
});

const sumOf = (a: ActivityCounts, b: ActivityCounts): ActivityCounts => ({
  note: a.note + b.note,
  call: a.call + b.call,
  message: a.message + b.message,
  meeting: a.meeting + b.meeting,
  visit: a.visit + b.visit,
});

const withVisit = (deal: Deal, old: Visit, fresh: Visit): Deal => ({
  ...deal,
  visits: deal.visits.map((visit) => (visit === old ? fresh : visit)),
});

function requireStage(stage: StageId, { document, version }: Setting): void {
  if (!stageOf(document, stage)) throw new RangeError(`Version ${version} has no stage ${stage}`);
}
