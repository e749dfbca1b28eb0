import { canonicalText } from '../canonicalText.ts';
import type { Deal } from '../deals/deal.ts';
import { recalculated } from '../deals/exchange.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { momentFor, revised, settle } from './settle.ts';

/** The deal judged again after something beside its own facts has changed: a customer, a rate, a house rule. */
export function rejudgeDeal(deal: Deal, setting: Setting, asked: Moment): Change {
  const after = recalculated(deal, setting);
  const isSame = deal.status.state !== 'open' || canonicalText(after.values) === canonicalText(deal.values);
  return settle(isSame ? { ...deal } : revised(after), setting, momentFor(deal, asked), []);
}
