import type { Actor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import type { PathStep } from '../deals/parts/path.ts';
import { type RunEnd, runsThatCount, type StepRun } from '../deals/parts/runs.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { stageOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeSurely, journal, revised } from './change.ts';
import { undoActions } from './resultActions.ts';
import { canTakeBack, TAKE_BACK_MS, type TakeBackProblem, takeBackStep } from './takeBack.ts';
import { waitAnew, withRun } from './thread.ts';

export type TakeResultBackProblem =
  | { readonly code: 'no_result' | 'closed' | 'not_yours' | 'too_late' }
  /** The deal has moved on since, or what the result led to is done. */
  | { readonly code: 'gone_on' }
  | { readonly code: 'step_gone' }
  /** The move that it made cannot be taken back. */
  | { readonly code: 'move'; readonly problem: TakeBackProblem };

/** What is taken back with a result. */
export interface ResultToTakeBack {
  readonly run: StepRun;
  readonly end: RunEnd;
  /** The run that it led to, still at hand. */
  readonly next: StepRun | null;
  /** The move that it made. */
  readonly move: PathStep | null;
}

type Taker = { readonly id: Actor; readonly rank: 'maker' | 'manager' };

/**
 * Whether the person may take a step's result back now: its maker for ten minutes, a manager later; with its move, or not at all
 * (S54). Who asks of many runs gives those that count.
 */
export function canTakeResultBack(
  deal: Deal,
  setting: Setting,
  seq: number,
  by: Taker,
  at: number,
  counted: readonly StepRun[] = runsThatCount(deal),
): Result<ResultToTakeBack, TakeResultBackProblem> {
  const run = counted.find((one) => one.seq === seq);
  const end = run?.end;
  if (!run || !end || end.how !== 'result') return failed({ code: 'no_result' });
  if (!stageOf(setting.document, run.stage)?.steps.some(({ id }) => id === run.step))
    return failed({ code: 'step_gone' });
  const who = by.rank === 'manager' ? null : makerProblem(end, by.id, at);
  if (who) return failed(who);
  const made = moveMadeBy(deal, setting, end, by, at);
  if (!made.ok) return made;
  const move = made.value;
  if (deal.status.state !== 'open' && !move) return failed({ code: 'closed' });
  const later = counted.filter((one) => one.seq > seq && one.stage === run.stage && one.visitSeq === run.visitSeq);
  const [next = null] = later;
  const stay = move ? null : presentVisit(deal).seq;
  const isElsewhere = run.owed === 'no' && stay !== null && stay !== run.visitSeq;
  if (isElsewhere || later.length > 1 || (next && next.end !== null)) return failed({ code: 'gone_on' });
  return ok({ run, end, next, move });
}

const makerProblem = (end: RunEnd, by: Actor, at: number): TakeResultBackProblem | null => {
  if (end.by !== by) return { code: 'not_yours' };
  return at - end.at > TAKE_BACK_MS ? { code: 'too_late' } : null;
};

function moveMadeBy(
  deal: Deal,
  setting: Setting,
  { moveSeq }: RunEnd,
  by: Taker,
  at: number,
): Result<PathStep | null, TakeResultBackProblem> {
  if (moveSeq === null) return ok(null);
  const step = canTakeBack(deal, setting, by, at);
  if (!step.ok) return failed({ code: 'move', problem: step.error });
  return step.value.seq === moveSeq ? ok(step.value) : failed({ code: 'gone_on' });
}

/** The deal with the step at hand again; the journal keeps both. */
export const takeResultBack = (
  deal: Deal,
  setting: Setting,
  { run, end, next, move }: ResultToTakeBack,
  asked: Moment,
  text: string | null,
): Change =>
  changeSurely(deal, setting, asked, (before, moment) => {
    const back = move ? takeBackStep(setting, move, text)(before, moment) : { deal: before, records: [] };
    const undone = undoActions(back, setting, end.did, { run: run.seq, name: run.name }, moment);
    const reopened = withRun(undone.deal, { ...run, end: null, goesOn: waitAnew(run, moment.recordedAt) });
    const attempt = end.thread === 'finished' ? null : reopened.attempt;
    const without = next ? withRun(reopened, { ...next, takenBack: 'yes' }) : reopened;
    const after = revised({ ...without, attempt });
    const body = {
      kind: 'result_taken_back',
      run: run.seq,
      step: run.step,
      name: run.name,
      result: end.result ?? '',
      resultName: end.resultName ?? '',
      kept: undone.kept,
      notes: end.did.some(({ did }) => did === 'note') ? 'stay' : 'none',
    } as const;
    return { deal: after, records: [...undone.records, journal(after, moment, body, text)] };
  });
