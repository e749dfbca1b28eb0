import type { Deal } from '../deals/deal.ts';
import { recalculated } from '../deals/exchange.ts';
import { moveRecord } from '../deals/moveRecord.ts';
import type { PathStep } from '../deals/parts/path.ts';
import type { Change, DealRecord } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { isClosed } from '../deals/status.ts';
import type { StageId } from '../ids.ts';
import { stageOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import type { Instant } from '../time/day.ts';
import { changeBy, journal, revised } from './change.ts';
import { beginStay } from './stay.ts';
import { arrive } from './taskSets.ts';

export interface ReopenProblem {
  readonly code: 'not_closed' | 'text_needed' | 'no_stage_left';
}

/**
 * Opens a closed deal again: a new stay in the last of its stages that the setting's version has, which need not be the one
 * it closed in, with what that stage says happens on arrival. Its target counts anew, its closing leaves the measures, and what was so on past days stays (S12, S65).
 * Errors: not closed, no reason given, none of its stages is left.
 */
export const reopenDeal = (deal: Deal, setting: Setting, text: string, asked: Moment): Result<Change, ReopenProblem> =>
  changeBy<ReopenProblem>(deal, setting, asked, (closed, moment) => {
    if (!isClosed(closed.status)) return failed({ code: 'not_closed' });
    if (text.trim() === '') return failed({ code: 'text_needed' });
    const stage = lastStageOf(closed, setting);
    if (!stage) return failed({ code: 'no_stage_left' });
    const step = reopening(closed, stage, moment);
    const open: Deal = {
      ...closed,
      version: setting.version,
      status: { state: 'open' },
      attempt: null,
      path: [...closed.path, step],
      moveCount: step.seq,
    };
    const when = { at: moment.happenedAt, by: moment.by };
    const begun = revised(recalculated(beginStay(open, stage, step.seq, when, setting), setting));
    const arrived = arrive(begun, stage, step.seq, setting, moment);
    return ok({
      deal: arrived.deal,
      records: [
        { kind: 'move', move: moveRecord(closed, setting, moment, step, { answer: 'passes', items: [] }, null) },
        ...closingsOf(closed, step.at),
        ...(closed.version === setting.version
          ? []
          : [journal(begun, moment, { kind: 'version_changed', before: closed.version, after: setting.version })]),
        journal(begun, moment, { kind: 'reopened', stage }, text.trim()),
        ...arrived.records,
      ],
    });
  });

const lastStageOf = (deal: Deal, { document }: Setting): StageId | undefined =>
  deal.visits.findLast(({ stage, takenBack }) => takenBack === 'no' && stageOf(document, stage))?.stage;

const closingsOf = ({ path }: Deal, at: Instant): readonly DealRecord[] =>
  path.slice(-1).map(({ seq }) => ({ kind: 'closing_reopened', seq, at }));

const reopening = (deal: Deal, to: StageId, { happenedAt: at, by }: Moment): PathStep => ({
  seq: deal.moveCount + 1,
  kind: 'reopen',
  from: null,
  to,
  over: [],
  owes: [],
  skipped: [],
  flagged: [],
  graceUntil: null,
  forced: 'no',
  at,
  by,
});
