import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { isClosed } from '../deals/status.ts';
import { failed, ok, type Result } from '../result.ts';
import type { Day } from '../time/day.ts';
import { changeBy, journal, type Step } from './change.ts';

export interface FollowUp {
  /** Null where nobody is to come back to it. */
  readonly day: Day | null;
  /** Why, where somebody said so. */
  readonly text: string | null;
}

/** Sets the day on which a closed deal is looked at again; its other facts stay as they closed (S12). Errors: not closed. */
export const changeFollowUp = (
  deal: Deal,
  setting: Setting,
  followUp: FollowUp,
  asked: Moment,
): Result<Change, NotClosed> => changeBy(deal, setting, asked, followUpStep(followUp));

interface NotClosed {
  readonly code: 'not_closed';
}

/** The same as a step. */
export const followUpStep =
  ({ day, text }: FollowUp): Step<NotClosed> =>
  (deal, moment) => {
    const { status } = deal;
    if (!isClosed(status)) return failed({ code: 'not_closed' });
    if (status.followUp === day) return ok({ deal, records: [] });
    const body = { kind: 'follow_up_changed', before: status.followUp, after: day } as const;
    return ok({
      deal: { ...deal, status: { ...status, followUp: day } },
      records: [journal(deal, moment, body, text)],
    });
  };
