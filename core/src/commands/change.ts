import { rejudge } from '../compliance/rejudge.ts';
import type { Deal } from '../deals/deal.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change, DealRecord } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { reviseStates } from '../deals/states.ts';
import { reviseVersions } from '../deals/versions.ts';
import type { JournalBody } from '../events/kinds.ts';
import { ok, type Result } from '../result.ts';
import { conformWaivers } from './conformWaivers.ts';
import { conformThreads } from './thread.ts';

/** What a step makes of a deal, not judged yet. The very same deal where it changes nothing. */
export interface Stepped {
  readonly deal: Deal;
  readonly records: readonly DealRecord[];
}

/** One thing done to a deal. Steps follow each other (`andThen`) and become one change together. */
export type Step<Problem> = (deal: Deal, moment: Moment) => Result<Stepped, Problem>;

/** What comes of a step: one moment, at most one revision, one judging at the end. Errors: those of the step. */
export function changeBy<Problem>(
  deal: Deal,
  setting: Setting,
  asked: Moment,
  step: Step<Problem>,
): Result<Change, Problem> {
  const moment = momentFor(deal, asked);
  const made = step(deal, moment);
  return made.ok ? ok(settle(deal, made.value, setting, moment)) : made;
}

/** The same of a step that always can be made. */
export function changeSurely(deal: Deal, setting: Setting, asked: Moment, step: SureStep): Change {
  const moment = momentFor(deal, asked);
  return settle(deal, step(deal, moment), setting, moment);
}

export type SureStep = (deal: Deal, moment: Moment) => Stepped;

/**
 * When a command happens: never before the deal's newest record, for clocks differ from server to server and may be set
 * back. An earlier `happenedAt`, of what is written down late, stays.
 */
export function momentFor(deal: Deal, asked: Moment): Moment {
  const recordedAt = Math.max(asked.recordedAt, deal.settledAt);
  const isLate = asked.happenedAt < asked.recordedAt;
  return { ...asked, recordedAt, happenedAt: isLate ? asked.happenedAt : recordedAt };
}

/** The end of every command: the revision counts once, and steps, findings and states are brought in line with the deal as it now is. */
export function settle(before: Deal, { deal, records }: Stepped, setting: Setting, moment: Moment): Change {
  if (deal === before) return { deal, records };
  const when = { at: moment.recordedAt, by: moment.by };
  const conforming = conformWaivers(conformThreads(deal, when, setting), when, setting);
  const revision = before.revision + (conforming.revision > before.revision ? 1 : 0);
  return { deal: judged({ ...conforming, revision }, setting, moment), records };
}

/** The deal with its findings, as they are judged, and its states as of the moment. */
export function judged(deal: Deal, setting: Setting, { recordedAt }: Moment, judge = rejudge): Deal {
  const settled: Deal = { ...deal, versions: reviseVersions(deal, recordedAt), settledAt: recordedAt };
  const found = judge(settled, setting, recordedAt);
  return { ...found, states: reviseStates(found, recordedAt) };
}

/** The deal after a change of something that a gate can read (S34). */
export const revised = (deal: Deal): Deal => ({ ...deal, revision: deal.revision + 1 });

/** A journal entry about the deal as it stands. */
export function journal(deal: Deal, moment: Moment, body: JournalBody, text: string | null = null): DealRecord {
  const { by, happenedAt, recordedAt, insteadOf } = moment;
  const told = insteadOf === undefined ? body : { insteadOf, ...body };
  return {
    kind: 'journal',
    entry: { body: told, text, stage: presentVisit(deal).stage, by, happenedAt, recordedAt },
  };
}
