import type { Deal, DealWith } from '../deals/deal.ts';
import { dealFacts, snapshotOf } from '../deals/dealFacts.ts';
import { keepVerdict, moveRecord } from '../deals/moveRecord.ts';
import type { PathStep } from '../deals/parts/path.ts';
import { openTasks } from '../deals/parts/tasks.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { FactPartName } from '../deals/parts.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Reason, Setting } from '../deals/setting.ts';
import type { DealStatus } from '../deals/status.ts';
import { assembleGate } from '../gate/assemble.ts';
import { type MoveTarget, type Route, routeTo, targetText } from '../gate/route.ts';
import { judgeGate, type Verdict } from '../gate/verdict.ts';
import type { StageId } from '../ids.ts';
import { isOpen } from '../requirements/item.ts';
import { failed, ok, type Result } from '../result.ts';
import type { TaskMove } from '../tasks/task.ts';
import { type Day, localDay } from '../time/day.ts';
import { journal, momentFor, revised, type Stepped, settle } from './change.ts';
import { endWaiversOnReturn } from './conformWaivers.ts';
import { type EditDealProblem, editStep, type FieldEdit } from './edit.ts';
import { type Final, type FinalFacts, type FinalProblem, type Finished, withFinal } from './finalFacts.ts';
import { beginStay, endStay } from './stay.ts';
import { arrive } from './taskSets.ts';
import { cancelOpenTasks } from './tasks.ts';
import { leaveThreads, oweThreads } from './thread.ts';

export interface MoveRequest {
  readonly target: MoveTarget;
  /** `force` passes the gate whatever it says; who may is decided by the caller (S10). */
  readonly mode: 'ask' | 'force';
  /** Why, in the mover's own words: needed for returns and forced moves. */
  readonly text: string | null;
  /** One of the process's reasons: needed for closing where there are any. */
  readonly reason: string | null;
  readonly followUp: Day | null;
  /** What is set with it, such as the next action; a move that is held keeps it. */
  readonly edits?: readonly FieldEdit[];
  /** How a deal that is won ends; as estimated, and on the day of the closing, where it is left out. A move that is held does not keep it. */
  readonly final?: Final | undefined;
  /** What becomes of the open tasks, where the process asks whoever moves the deal. */
  readonly tasks?: 'keep' | 'cancel';
}

export type MoveProblem =
  | FinalProblem
  | {
      readonly code:
        | 'closed'
        | 'same_stage'
        | 'no_such_outcome'
        | 'text_needed'
        | 'reason_needed'
        | 'reason_unknown'
        | 'follow_up_needed'
        /** What becomes of the open tasks has to be said. */
        | 'tasks_needed';
    }
  | { readonly code: 'no_such_stage'; readonly stage: StageId }
  | { readonly code: 'edits'; readonly problems: readonly EditDealProblem[] };

export interface MoveAnswer {
  readonly result: 'moved' | 'held';
  readonly route: Route;
  readonly verdict: Verdict;
  readonly change: Change;
}

/** What the gate says of a move, without making it: never counted (S13). */
export function previewMove(
  deal: DealWith<FactPartName>,
  setting: Setting,
  target: MoveTarget,
  moment: Pick<Moment, 'happenedAt'>,
): Result<{ route: Route; verdict: Verdict }, MoveProblem> {
  if (deal.status.state !== 'open') return failed({ code: 'closed' });
  const from = presentVisit(deal).stage;
  const route = routeTo(setting.document, from, target);
  if (!route.ok) return route;
  const items = assembleGate(setting.document, from, target, route.value);
  return ok({
    route: route.value,
    verdict: judgeGate(items, dealFacts(deal, setting, moment.happenedAt), setting.catalogue),
  });
}

/** Makes the move, or refuses it with the verdict and records the refusal. Errors: the request itself is not complete. */
export function moveDeal(
  deal: Deal,
  setting: Setting,
  request: MoveRequest,
  asked: Moment,
): Result<MoveAnswer, MoveProblem> {
  const moment = momentFor(deal, asked);
  const edited = editStep(setting, request.edits ?? [])(deal, moment);
  if (!edited.ok && request.edits) return failed({ code: 'edits', problems: edited.error });
  const before = edited.ok ? edited.value : { deal, records: [] };
  const made = moveStep(setting, request)(before.deal, moment);
  if (!made.ok) return made;
  const { result, route, verdict, ...after } = made.value;
  const stepped = { deal: after.deal, records: [...before.records, ...after.records] };
  return ok({ result, route, verdict, change: settle(deal, stepped, setting, moment) });
}

interface SteppedMove extends Stepped {
  readonly result: MoveAnswer['result'];
  readonly route: Route;
  readonly verdict: Verdict;
}

/** The same as a step, which tells what the gate said. */
export const moveStep =
  (setting: Setting, request: MoveRequest) =>
  (deal: Deal, moment: Moment): Result<SteppedMove, MoveProblem> => {
    const finished = withFinal(deal, setting, request.target, request.final, moment);
    if (!finished.ok) return finished;
    const preview = previewMove(finished.value.deal, setting, request.target, moment);
    if (!preview.ok) return preview;
    const { route, verdict } = preview.value;
    if (verdict.answer === 'holds' && request.mode === 'ask')
      return ok({ result: 'held', route, verdict, ...refuse(deal, setting, request.target, verdict, moment) });
    const problem = requestProblem(request, route, setting.reasons) ?? tasksProblem(deal, request, route, setting);
    if (problem) return failed(problem);
    return ok({
      result: 'moved',
      route,
      verdict,
      ...makeMove(finished.value, setting, request, route, verdict, moment),
    });
  };

function requestProblem(request: MoveRequest, route: Route, reasons: readonly Reason[]): MoveProblem | null {
  const hasText = request.text !== null && request.text.trim() !== '';
  if ((route.kind === 'return' || request.mode === 'force') && !hasText) return { code: 'text_needed' };
  const { target } = request;
  if (target.to === 'stage') return null;
  const offered = reasons.filter(({ outcome, withdrawn }) => outcome === target.outcome && withdrawn === 'no');
  if (offered.length === 0) return null;
  if (request.reason === null) return { code: 'reason_needed' };
  const chosen = offered.find(({ id }) => id === request.reason);
  if (!chosen) return { code: 'reason_unknown' };
  return chosen.followUp === 'asked' && request.followUp === null ? { code: 'follow_up_needed' } : null;
}

/** The moves that a process tells apart as to what becomes of open tasks. */
export const taskMoveOf = ({ kind }: Pick<Route, 'kind'>): TaskMove => {
  if (kind === 'won' || kind === 'lost') return 'closing';
  return kind === 'return' ? 'return' : 'forward';
};

function tasksProblem(deal: Deal, { tasks }: MoveRequest, route: Route, { taskFates }: Setting): MoveProblem | null {
  const isAsked = tasks === undefined && taskFates[taskMoveOf(route)] === 'ask';
  return isAsked && openTasks(deal).length > 0 ? { code: 'tasks_needed' } : null;
}

/** Whether the move cancels open tasks. */
function cancelsTasks({ tasks }: MoveRequest, route: Route, { taskFates }: Setting): boolean {
  const fate = taskFates[taskMoveOf(route)];
  return (fate === 'ask' ? tasks : fate) === 'cancel';
}

function refuse(deal: Deal, setting: Setting, target: MoveTarget, verdict: Verdict, moment: Moment): Stepped {
  const from = presentVisit(deal).stage;
  const text = targetText(target);
  const after: Deal = { ...deal, attempt: { target: text, at: moment.happenedAt, by: moment.by } };
  const refusal = {
    from,
    target: text,
    day: localDay(moment.happenedAt, setting.zone),
    at: moment.happenedAt,
    by: moment.by,
    verdict: keepVerdict(verdict),
    snapshot: snapshotOf(deal, setting, moment.happenedAt),
  };
  const open = openIds(verdict);
  return {
    deal: after,
    records: [{ kind: 'refusal', refusal }, journal(deal, moment, { kind: 'refused', from, target: text, open })],
  };
}

const openIds = (verdict: Verdict): readonly string[] =>
  verdict.items.filter(({ state }) => isOpen(state)).map(({ item }) => item.id);

function makeMove(
  { deal, final }: Finished,
  setting: Setting,
  request: MoveRequest,
  route: Route,
  verdict: Verdict,
  moment: Moment,
): Stepped {
  const step = stepOf(deal, setting, request, route, verdict, moment);
  const when = { at: moment.happenedAt, by: moment.by };
  const left = leaveThreads(deal, route.kind, step.to, step.seq, when, setting);
  const after = revised({
    ...endStay(route.kind === 'return' ? endWaiversOnReturn(left, step.seq, when) : left, when.at, setting),
    attempt: null,
    path: [...deal.path, step],
    moveCount: step.seq,
  });
  const arrived =
    step.to === null
      ? close(after, setting, request, route, final, moment)
      : oweThreads(beginStay(after, step.to, step.seq, when, setting), step.over, when, setting);
  const body = {
    kind: 'moved',
    seq: step.seq,
    move: step.kind,
    from: step.from,
    to: step.to,
    ...(step.outcome === undefined ? {} : { outcome: step.outcome }),
    over: step.over,
    answer: verdict.answer,
    open: openIds(verdict),
    forced: step.forced,
    ...(step.waived ? { waived: step.waived } : {}),
    reason: request.reason,
    ...(final ? { final: finalTold(deal, final) } : {}),
  } as const;
  const move = moveRecord(deal, setting, moment, step, keepVerdict(verdict), request.reason);
  const told = [{ kind: 'move', move }, journal(arrived, moment, body, request.text)] as const;
  const settled = cancelsTasks(request, route, setting)
    ? cancelOpenTasks(arrived, step.seq, setting, moment)
    : { deal: arrived, records: [] };
  const begun =
    step.to === null ? { deal: settled.deal, records: [] } : arrive(settled.deal, step.to, step.seq, setting, moment);
  return { deal: begun.deal, records: [...told, ...settled.records, ...begun.records] };
}

function stepOf(
  deal: Deal,
  { document }: Setting,
  request: MoveRequest,
  route: Route,
  verdict: Verdict,
  moment: Moment,
): PathStep {
  const forced = request.mode === 'force' && verdict.answer === 'holds' ? 'yes' : 'no';
  const open = verdict.items.flatMap(({ item, state }) => (isOpen(state) ? [item] : []));
  const waived = verdict.items.flatMap(({ item, state }) => (state === 'waived' ? [item] : []));
  const passedOver = open.filter((item) => item.passedOver);
  const isOwedOn = forced === 'no' || document.skips === 'flag';
  return {
    seq: deal.moveCount + 1,
    kind: route.kind,
    from: presentVisit(deal).stage,
    over: route.over,
    forced,
    to: request.target.to === 'stage' ? request.target.stage : null,
    ...(request.target.to === 'outcome' ? { outcome: request.target.outcome } : {}),
    owes: idsOf([...(forced === 'yes' ? open : passedOver), ...waived]),
    skipped: isOwedOn ? idsOf(passedOver) : [],
    flagged: idsOf(open.filter((item) => !item.passedOver && item.binds === 'at_move' && item.level === 'flag')),
    graceUntil: null,
    ...(waived.length > 0 ? { waived: idsOf(waived) } : {}),
    at: moment.happenedAt,
    by: moment.by,
  };
}

const idsOf = (items: readonly { readonly id: string }[]): readonly string[] => items.map(({ id }) => id);

const finalTold = ({ values }: Deal, { estimate, day }: FinalFacts) => ({
  value: { before: estimate.value, after: values.value ?? null },
  day: { before: estimate.day, after: day },
});

function close(
  deal: Deal,
  setting: Setting,
  request: MoveRequest,
  route: Route,
  final: FinalFacts | null,
  moment: Moment,
): Deal {
  const status: DealStatus = {
    state: route.kind === 'lost' ? 'lost' : 'won',
    outcome: request.target.to === 'outcome' ? request.target.outcome : '',
    at: moment.happenedAt,
    day: localDay(moment.happenedAt, setting.zone),
    reason: request.reason,
    followUp: request.followUp,
    estimate: final?.estimate ?? null,
  };
  return { ...deal, status, values: final ? { ...deal.values, close_date: final.day } : deal.values };
}
