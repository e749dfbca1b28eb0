import type { Deal } from '../deals/deal.ts';
import { recalculated } from '../deals/exchange.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { changeSurely, revised } from './change.ts';

/**
 * The deal judged again after something beside its own facts has changed: a customer, a rate, a house rule, its version. The very
 * same deal where nothing comes of it, so that nothing is written.
 */
export function rejudgeDeal(deal: Deal, setting: Setting, asked: Moment): Change {
  const after = recalculated(deal, setting);
  const isRevised = deal.status.state === 'open' && after.values !== deal.values;
  const standing = isRevised ? revised(after) : { ...deal };
  const change = changeSurely(deal, setting, asked, () => ({ deal: standing, records: [] }));
  return isRevised || isJudgedAnew(deal, change.deal) ? change : { deal, records: [] };
}

function isJudgedAnew(before: Deal, after: Deal): boolean {
  const known = new Set(before.findings);
  const isAlike = after.findings.length === known.size && after.findings.every((finding) => known.has(finding));
  return !isAlike || after.attempt !== before.attempt || after.runs !== before.runs || after.waivers !== before.waivers;
}
