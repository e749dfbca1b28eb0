import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { failed, ok, type Result } from '../result.ts';
import type { Day } from '../time/day.ts';
import { journal, momentFor, settle } from './settle.ts';

/** Sets the day on which a closed deal is looked at again; its other facts stay as they closed (S12). Errors: not closed. */
export function changeFollowUp(
  deal: Deal,
  setting: Setting,
  day: Day | null,
  asked: Moment,
): Result<Change, { readonly code: 'not_closed' }> {
  const { status } = deal;
  if (status.state !== 'won' && status.state !== 'lost') return failed({ code: 'not_closed' });
  if (status.followUp === day) return ok({ deal, records: [] });
  const moment = momentFor(deal, asked);
  const body = { kind: 'follow_up_changed', before: status.followUp, after: day } as const;
  return ok(settle({ ...deal, status: { ...status, followUp: day } }, setting, moment, [journal(deal, moment, body)]));
}
