import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { DealLink } from '../events/dealLink.ts';
import { ok, type Result } from '../result.ts';
import { changeBy, journal } from './change.ts';
import { followUpStep } from './followUp.ts';

/** Writes into a closed deal's journal which deal was begun from it; with that, its follow-up has been seen to. Errors: not closed. */
export const recordNext = (
  deal: Deal,
  setting: Setting,
  asked: Moment,
  next: DealLink,
): Result<Change, { readonly code: 'not_closed' }> =>
  changeBy(deal, setting, asked, (closed, moment) => {
    const seenTo = followUpStep({ day: null, text: null })(closed, moment);
    if (!seenTo.ok) return seenTo;
    const told = journal(closed, moment, { kind: 'went_on', next });
    return ok({ deal: { ...seenTo.value.deal }, records: [told, ...seenTo.value.records] });
  });
