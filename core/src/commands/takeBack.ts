import type { Actor } from '../deals/actor.ts';
import type { Deal } from '../deals/deal.ts';
import type { PathStep } from '../deals/parts/path.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { stageOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeSurely, journal, revised, type SureStep } from './change.ts';
import { restoreWaivers } from './conformWaivers.ts';
import { withoutFinal } from './finalFacts.ts';
import { resumeStay } from './stay.ts';
import { restoreTasks } from './tasks.ts';

/** For so long the maker of a move may take it back alone (S11). */
export const TAKE_BACK_MS = 10 * 60_000;

export type TakeBackProblem =
  | { readonly code: 'nothing_to_take_back' }
  | { readonly code: 'too_late' }
  | { readonly code: 'not_yours' }
  | { readonly code: 'voided' }
  /** The stage it would go back to is not in the deal's version any more. */
  | { readonly code: 'stage_gone' };

/** Whether the person may take the deal's last move back now; a manager may at any time. */
export function canTakeBack(
  deal: Deal,
  { document }: Setting,
  by: { readonly id: Actor; readonly rank: 'maker' | 'manager' },
  at: number,
): Result<PathStep, TakeBackProblem> {
  if (deal.status.state === 'voided') return failed({ code: 'voided' });
  const last = deal.path.at(-1);
  if (!last || last.kind === 'start' || last.kind === 'transfer' || last.kind === 'reopen')
    return failed({ code: 'nothing_to_take_back' });
  if (!stageOf(document, last.from ?? '')) return failed({ code: 'stage_gone' });
  if (by.rank === 'manager') return ok(last);
  if (last.by !== by.id) return failed({ code: 'not_yours' });
  return at - last.at > TAKE_BACK_MS ? failed({ code: 'too_late' }) : ok(last);
}

/** The deal as if its last move had not been made; the journal keeps both, paths and measures drop both (S11). */
export const takeBack = (deal: Deal, setting: Setting, step: PathStep, asked: Moment, text: string | null): Change =>
  changeSurely(deal, setting, asked, takeBackStep(setting, step, text));

/** The same as a step. */
export const takeBackStep =
  (setting: Setting, step: PathStep, text: string | null): SureStep =>
  (deal, moment) => {
    const stayed = restoreWaivers(resumeStay(withoutFinal(deal, setting), step.seq, setting), step.seq, setting);
    const resumed = restoreTasks(stayed, step.seq, setting, moment);
    const after = revised({
      ...resumed.deal,
      status: { state: 'open' },
      attempt: null,
      path: deal.path.filter(({ seq }) => seq !== step.seq),
    });
    const body = { kind: 'taken_back', ...movePartsOf(step) } as const;
    return {
      deal: after,
      records: [
        { kind: 'move_taken_back', seq: step.seq, at: moment.happenedAt, by: moment.by },
        journal(after, moment, body, text),
        ...resumed.records,
      ],
    };
  };

const movePartsOf = ({ seq, kind: move, from, to, outcome }: PathStep) => ({
  seq,
  move,
  from,
  to,
  ...(outcome === undefined ? {} : { outcome }),
});
