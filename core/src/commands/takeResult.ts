import type { Deal } from '../deals/deal.ts';
import { runsThatCount, type StepRun } from '../deals/parts/runs.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { isEmpty } from '../facts/value.ts';
import { type MoveTarget, nextTarget, type Route } from '../gate/route.ts';
import type { Verdict } from '../gate/verdict.ts';
import { stageOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import { type LeadsTo, leadOf } from '../steps/lead.ts';
import type { GuidedStep, StepResult } from '../steps/step.ts';
import type { Day } from '../time/day.ts';
import { journal, momentFor, revised, type Stepped, settle } from './change.ts';
import { type EditDealProblem, editStep, type FieldEdit } from './edit.ts';
import { type MoveProblem, type MoveRequest, moveStep } from './move.ts';
import { type Acted, carryOut } from './resultActions.ts';
import { beginRun, endRun, runPlace } from './thread.ts';

export interface ResultRequest {
  /** The run that is at hand. */
  readonly run: number;
  readonly result: string;
  /** What was filled in the step. */
  readonly captures: readonly FieldEdit[];
  /** What the move that the result makes asks, as of any move. */
  readonly text: string | null;
  readonly reason: string | null;
  readonly followUp: Day | null;
  readonly tasks?: MoveRequest['tasks'];
  readonly final?: MoveRequest['final'];
}

export type ResultProblem =
  | { readonly code: 'closed' }
  /** The run has ended meanwhile, or never was. */
  | { readonly code: 'not_at_hand' }
  | { readonly code: 'no_such_result' }
  | { readonly code: 'captures_missing'; readonly fields: readonly string[] }
  | { readonly code: 'captures'; readonly problems: readonly EditDealProblem[] }
  /** One of the result's actions cannot be carried out any more. */
  | { readonly code: 'action'; readonly name: string }
  | { readonly code: 'move'; readonly problem: MoveProblem };

/** What came of the move that a result led to; where its gate holds it, the result stays all the same (S49). */
export interface ResultMove {
  readonly result: 'moved' | 'held';
  readonly target: MoveTarget;
  readonly route: Route;
  readonly verdict: Verdict;
}

export interface ResultAnswer {
  readonly change: Change;
  /** Null where the result makes no move. */
  readonly move: ResultMove | null;
}

/**
 * Ends the step at hand with a result: its fields are filled, what the result leads to begins, or the deal is moved, all as
 * one change. Errors: the step is not at hand, a must field is empty, or the move asks for something that was not given; then
 * nothing is done.
 */
export function takeResult(
  deal: Deal,
  setting: Setting,
  request: ResultRequest,
  asked: Moment,
): Result<ResultAnswer, ResultProblem> {
  const moment = momentFor(deal, asked);
  const found = findResult(deal, setting, request);
  if (!found.ok) return found;
  const { run, step, result } = found.value;
  const filled = editStep(setting, request.captures, { run: run.seq, name: step.name })(deal, moment);
  if (!filled.ok) return failed({ code: 'captures', problems: filled.error });
  const fields = result.captures === 'asked' ? missing(filled.value.deal, step) : [];
  if (fields.length > 0) return failed({ code: 'captures_missing', fields });
  const lead = leadOf(stageOf(setting.document, run.stage)?.steps ?? [], step.id, result);
  const acted = carryOut(filled.value, setting, found.value, moment);
  if (!acted.ok) return acted;
  const ended = endWith(acted.value, setting, { ...found.value, lead }, moment);
  const target = run.owed === 'yes' ? null : targetOf(ended.deal, setting, lead);
  if (!target) return ok({ change: settle(deal, ended, setting, moment), move: null });
  return thenMove(deal, ended, setting, { request, run, lead, target }, moment);
}

interface Found {
  readonly run: StepRun;
  readonly step: GuidedStep;
  readonly result: StepResult;
}

function findResult(deal: Deal, { document }: Setting, request: ResultRequest): Result<Found, ResultProblem> {
  if (deal.status.state !== 'open') return failed({ code: 'closed' });
  const run = runsThatCount(deal).find(({ seq, end }) => seq === request.run && end === null);
  const step = run && stageOf(document, run.stage)?.steps.find(({ id }) => id === run.step);
  if (!run || !step) return failed({ code: 'not_at_hand' });
  const result = step.results.find(({ id }) => id === request.result);
  return result ? ok({ run, step, result }) : failed({ code: 'no_such_result' });
}

const missing = (deal: Deal, { captures }: GuidedStep): readonly string[] =>
  captures.filter(({ field, need }) => need === 'must' && isEmpty(deal.values[field])).map(({ field }) => field);

function endWith(
  { deal: acted, records, did }: Acted,
  setting: Setting,
  { run, step, result, lead }: Found & { readonly lead: LeadsTo },
  moment: Moment,
): Stepped {
  const when = { at: moment.happenedAt, by: moment.by };
  const thread = lead.to === 'step' ? 'goes_on' : 'finished';
  const end = { how: 'result', result: result.id, resultName: result.name, thread, moveSeq: null, did } as const;
  const without = revised(endRun(acted, run, end, when, setting));
  const deal = lead.to === 'step' ? beginRun(without, runPlace(run), lead.step, when.at, setting) : without;
  const body = {
    kind: 'step_ended',
    run: run.seq,
    step: step.id,
    name: step.name,
    result: result.id,
    resultName: result.name,
  } as const;
  return { deal, records: [...records, journal(deal, moment, body)] };
}

function targetOf(deal: Deal, { document }: Setting, lead: LeadsTo): MoveTarget | null {
  switch (lead.to) {
    case 'step':
    case 'finish':
      return null;
    case 'move_on':
      return nextTarget(document, presentVisit(deal).stage);
    case 'stage':
      return { to: 'stage', stage: lead.stage };
    case 'outcome':
      return { to: 'outcome', outcome: lead.outcome };
  }
}

interface Moving {
  readonly request: ResultRequest;
  readonly run: StepRun;
  readonly lead: LeadsTo;
  readonly target: MoveTarget;
}

function thenMove(
  before: Deal,
  ended: Stepped,
  setting: Setting,
  { request, run, lead, target }: Moving,
  moment: Moment,
): Result<ResultAnswer, ResultProblem> {
  const named = lead.to === 'outcome' ? lead.reason : null;
  const { text, followUp, tasks, final } = request;
  const asked: MoveRequest = { target, mode: 'ask', text, reason: request.reason ?? named, followUp, tasks, final };
  const moved = moveStep(setting, asked)(ended.deal, moment);
  if (!moved.ok) return failed({ code: 'move', problem: moved.error });
  const { result, route, verdict } = moved.value;
  const deal = result === 'moved' ? madeBy(moved.value.deal, run.seq) : moved.value.deal;
  const stepped = { deal, records: [...ended.records, ...moved.value.records] };
  return ok({ change: settle(before, stepped, setting, moment), move: { result, target, route, verdict } });
}

/** The deal with the move that a run's result made told with it, so that both are taken back together (S54). */
const madeBy = (deal: Deal, seq: number): Deal => ({
  ...deal,
  runs: deal.runs.map((run) =>
    run.seq === seq && run.end ? { ...run, end: { ...run.end, moveSeq: deal.moveCount } } : run,
  ),
});
