import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { failed, ok, type Result } from '../result.ts';
import { journal, momentFor, settle } from './settle.ts';

/** The deal under another name. Errors: the deal is closed. */
export function renameDeal(
  deal: Deal,
  setting: Setting,
  name: string,
  asked: Moment,
): Result<Change, { readonly code: 'closed' }> {
  if (deal.status.state !== 'open') return failed({ code: 'closed' });
  if (deal.name === name) return ok({ deal, records: [] });
  const moment = momentFor(deal, asked);
  return ok(
    settle({ ...deal, name }, setting, moment, [
      journal(deal, moment, { kind: 'renamed', before: deal.name, after: name }),
    ]),
  );
}
