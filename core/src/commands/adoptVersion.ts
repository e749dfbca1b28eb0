import type { Deal } from '../deals/deal.ts';
import { recalculated } from '../deals/exchange.ts';
import { moveRecord } from '../deals/moveRecord.ts';
import type { PathStep } from '../deals/parts/path.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change, DealRecord } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { StageId } from '../ids.ts';
import { stageOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import type { Instant } from '../time/day.ts';
import { journal, momentFor, revised, settle } from './change.ts';
import { beginStay, endStay } from './stay.ts';
import { leaveThreads } from './thread.ts';

export interface Adoption {
  readonly from: Setting;
  /** With the publish that brings it among its publishes. */
  readonly to: Setting;
  /** Where deals go whose stage the new version no longer has, by the stage's id. */
  readonly transfers: Readonly<Record<string, StageId>>;
  readonly graceUntil: Instant;
}

/** The deal stands in a stage that the new version lacks, and nothing that it has was named instead. */
export interface AdoptionProblem {
  readonly code: 'no_transfer';
  readonly stage: StageId;
}

/**
 * The deal moved over to a newer version (S28): its stay, ticks and due day are kept, a removed stage is left by a
 * transfer that measures do not count, calculated numbers that are new get their value, and what fails only because of
 * the new version flags until the grace ends. Errors: nowhere to go from a removed stage.
 */
export function adoptVersion(deal: Deal, adoption: Adoption, asked: Moment): Result<Change, AdoptionProblem> {
  const { from, to, transfers } = adoption;
  // Each version is followed for a moment at least: what came of a publish is told by the versions before and after it.
  const moment = momentFor({ ...deal, settledAt: deal.settledAt + 1 }, asked);
  const { stage } = presentVisit(deal);
  const target = stageOf(to.document, stage) ? null : stageOf(to.document, transfers[stage] ?? '')?.id;
  if (target === undefined) return failed({ code: 'no_transfer', stage });
  const { deal: standing, records } =
    target === null ? { deal, records: [] } : transfer(deal, target, adoption, moment);
  const adopted = revised(recalculated({ ...standing, version: to.version }, to));
  const body = { kind: 'version_changed', before: from.version, after: to.version } as const;
  return ok(settle(deal, { deal: adopted, records: [...records, journal(adopted, moment, body)] }, to, moment));
}

function transfer(
  deal: Deal,
  target: StageId,
  { from, to, graceUntil }: Adoption,
  moment: Moment,
): { deal: Deal; records: readonly DealRecord[] } {
  const step: PathStep = {
    seq: deal.moveCount + 1,
    kind: 'transfer',
    from: presentVisit(deal).stage,
    to: target,
    over: [],
    owes: [],
    skipped: [],
    flagged: [],
    graceUntil,
    forced: 'no',
    at: moment.happenedAt,
    by: moment.by,
  };
  const move = moveRecord(deal, from, moment, step, { answer: 'passes', items: [] }, null);
  const when = { at: moment.happenedAt, by: moment.by };
  const left = endStay(leaveThreads(deal, 'transfer', target, step.seq, when, to), when.at, to);
  const moved = { ...left, moveCount: step.seq, attempt: null, path: [...deal.path, step] };
  return { deal: beginStay(moved, target, step.seq, when, to), records: [{ kind: 'move', move }] };
}
