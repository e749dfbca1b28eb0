import type { Deal } from '../deals/deal.ts';
import { type RunEnd, runsThatCount, type StepRun } from '../deals/parts/runs.ts';
import { presentVisit, type Visit } from '../deals/parts/visits.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { Route } from '../gate/route.ts';
import type { StageId } from '../ids.ts';
import { placeOf, stageOf } from '../processes/document.ts';
import { leadOf } from '../steps/lead.ts';
import type { GuidedStep } from '../steps/step.ts';
import { inWorkingDays, moveOnDay } from '../time/calendar.ts';
import { type Instant, localDay } from '../time/day.ts';

const DAY_MS = 86_400_000;

/*
 * The only functions that begin and end runs of guided steps. The steps of a stage are one thread, of which at most one is at
 * hand; those owed from a skipped stage are a thread of their own (S48).
 */

/** Where a run is carried out. */
export type RunPlace = Pick<StepRun, 'stage' | 'visitSeq' | 'owed'>;
/** Who does it, and when it happened. */
export type When = Pick<Moment, 'by'> & { readonly at: Instant };

/** The deal with the steps of a stage begun; what was done in an earlier stay counts, unless it is done again after a return (S7). */
export function beginThread(deal: Deal, place: RunPlace, when: When, setting: Setting): Deal {
  const steps = stageOf(setting.document, place.stage)?.steps ?? [];
  const earlier = endedBefore(deal);
  const [first] = steps;
  if (!first) return deal;
  let begun = beginRun(deal, place, first, when.at, setting);
  for (let step: GuidedStep = first; ; ) {
    const known = step.afterReturn === 'keep' ? earlier.get(step.id) : undefined;
    const result = step.results.find(({ id }) => id === known?.result);
    // Each counts once, so that results that lead in a circle come to an end.
    earlier.delete(step.id);
    if (!result) return begun;
    const lead = leadOf(steps, step.id, result);
    const thread = lead.to === 'step' ? 'goes_on' : 'finished';
    const end = { how: 'carried', result: result.id, resultName: result.name, thread, moveSeq: null, did: [] } as const;
    begun = endRun(begun, lastRun(begun), end, when, setting);
    if (lead.to !== 'step') return begun;
    step = lead.step;
    begun = beginRun(begun, place, step, when.at, setting);
  }
}

/** How each step last ended with a result. */
const endedBefore = (deal: Deal): Map<string, RunEnd> =>
  new Map(runsThatCount(deal).flatMap(({ step, end }) => (end && end.result !== null ? [[step, end] as const] : [])));

const lastRun = ({ runs }: Deal): StepRun => {
  const last = runs.at(-1);
  if (!last) throw new Error('No step was begun');
  return last;
};

/** The deal with a run of the step at hand. */
export function beginRun(deal: Deal, place: RunPlace, step: GuidedStep, at: Instant, setting: Setting): Deal {
  const day = localDay(at, setting.zone);
  const began = runsThatCount(deal).find((run) => isPlace(place, run));
  const from = step.due?.after === 'arrival' ? (began?.begunDay ?? day) : day;
  const run: StepRun = {
    ...place,
    seq: deal.runs.length + 1,
    step: step.id,
    name: step.name,
    begunAt: at,
    begunDay: day,
    dueDay: step.due && moveOnDay(from, step.due, setting.calendar),
    inWorkingDays: inWorkingDays(step.due),
    assignee: null,
    goesOn: step.byItself && { ...step.byItself, at: at + step.byItself.days * DAY_MS },
    end: null,
    takenBack: 'no',
  };
  return { ...deal, runs: [...deal.runs, run] };
}

const isPlace = (a: RunPlace, b: RunPlace): boolean =>
  a.stage === b.stage && a.visitSeq === b.visitSeq && a.owed === b.owed;

/** The deal with a run ended. */
export const endRun = (
  deal: Deal,
  run: StepRun,
  end: Omit<RunEnd, 'at' | 'day' | 'by'>,
  { at, by }: When,
  { zone }: Setting,
): Deal => withRun(deal, { ...run, end: { ...end, at, day: localDay(at, zone), by } });

/** The deal with a run as it is now. */
export const withRun = (deal: Deal, run: StepRun): Deal => ({
  ...deal,
  runs: deal.runs.map((old) => (old.seq === run.seq ? run : old)),
});

/** A step that no longer is at hand through a move. */
const broken = (how: 'left' | 'withdrawn', moveSeq: number | null): Omit<RunEnd, 'at' | 'day' | 'by'> => ({
  how,
  result: null,
  resultName: null,
  thread: 'broken_off',
  moveSeq,
  did: [],
});

/** The deal as it leaves its stage: its steps are left, or withdrawn where it goes back; owed ones stay unless they lie ahead again. */
export function leaveThreads(
  deal: Deal,
  kind: Route['kind'] | 'transfer',
  to: StageId | null,
  moveSeq: number | null,
  when: When,
  setting: Setting,
): Deal {
  const { document } = setting;
  const isGoneBack = kind === 'return' || kind === 'transfer';
  const liesAhead = ({ stage }: StepRun): boolean =>
    to === null || (isGoneBack && placeOf(document, stage) >= placeOf(document, to));
  const ending = runsThatCount(deal).filter((run) => run.end === null && (run.owed === 'no' || liesAhead(run)));
  return ending.reduce(
    (left, run) => endRun(left, run, broken(isGoneBack ? 'withdrawn' : 'left', moveSeq), when, setting),
    deal,
  );
}

/** The deal with the steps of the stages that a skip passed over begun, where the process flags skips: they are owed (S8). */
export function oweThreads(deal: Deal, over: readonly StageId[], when: When, setting: Setting): Deal {
  if (setting.document.skips !== 'flag') return deal;
  const { seq } = presentVisit(deal);
  return over.reduce((owing, stage) => beginThread(owing, { stage, visitSeq: seq, owed: 'yes' }, when, setting), deal);
}

/** The deal as if a move had not been made: steps that it began never were, and those that it ended are at hand again. */
export function restoreThreads(deal: Deal, moveSeq: number, undone: Visit | undefined): Deal {
  const restored = (run: StepRun): StepRun => {
    if (undone && run.visitSeq === undone.seq) return { ...run, takenBack: 'yes' };
    if (run.end?.moveSeq !== moveSeq) return run;
    return { ...run, end: run.end.how === 'result' ? { ...run.end, moveSeq: null } : null };
  };
  const runs = deal.runs.map(restored);
  return runs.every((run, place) => run === deal.runs[place]) ? deal : { ...deal, runs };
}

/**
 * The deal with its steps as its version has them (S55); whatever a publish changed, every command ends with this. A step that
 * is gone is withdrawn, and its thread goes to the first of the steps that was not done in it, or is finished; a stage that
 * had no steps begins those that it has now. The very same deal where they are so.
 */
export function conformThreads(deal: Deal, when: When, setting: Setting): Deal {
  if (deal.status.state !== 'open') return deal;
  const open = runsThatCount(deal).filter(({ end }) => end === null);
  const kept = open.reduce((conforming, run) => conformRun(conforming, run, when, setting), deal);
  const { stage, seq } = presentVisit(kept);
  const isBegun = runsThatCount(kept).some((run) => run.stage === stage && run.visitSeq === seq);
  return isBegun ? kept : beginThread(kept, { stage, visitSeq: seq, owed: 'no' }, when, setting);
}

/** The deal with a run that waits as its step says now; a wait that is new is a day at least from now on. */
function conformWait(deal: Deal, run: StepRun, { byItself }: GuidedStep, now: Instant): Deal {
  const { goesOn } = run;
  const isAlike = byItself?.days === goesOn?.days && byItself?.result === goesOn?.result;
  if (isAlike) return deal;
  const at = byItself && Math.max(run.begunAt + byItself.days * DAY_MS, now + DAY_MS);
  return withRun(deal, { ...run, goesOn: byItself && { ...byItself, at } });
}

/** When a run goes on by itself that is at hand again: as before, but after a day at least. */
export const waitAnew = ({ goesOn }: StepRun, now: Instant): StepRun['goesOn'] =>
  goesOn && { ...goesOn, at: goesOn.at === null ? null : Math.max(goesOn.at, now + DAY_MS) };

function conformRun(deal: Deal, run: StepRun, when: When, setting: Setting): Deal {
  const steps = stageOf(setting.document, run.stage)?.steps ?? [];
  const step = steps.find(({ id }) => id === run.step);
  if (step) return conformWait(deal, run, step, when.at);
  const done = runsThatCount(deal).filter(
    (other) => isPlace(run, other) && other.end !== null && other.end.result !== null,
  );
  const next = steps.find(({ id }) => !done.some(({ step }) => step === id));
  const end = { ...broken('withdrawn', null), thread: next ? 'goes_on' : 'finished' } as const;
  const ended = endRun(deal, run, end, when, setting);
  return next ? beginRun(ended, runPlace(run), next, when.at, setting) : ended;
}

/** Where a run is carried out. */
export const runPlace = ({ stage, visitSeq, owed }: StepRun): RunPlace => ({ stage, visitSeq, owed });
