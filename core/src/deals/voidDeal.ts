import type { Deal } from './deal.ts';
import type { Change } from './record.ts';
import type { Moment, Setting } from './setting.ts';
import { journal, revised, settle } from './settle.ts';

/** Takes a deal that was a test or a duplicate out of all measures; its journal stays (S11). */
export function voidDeal(deal: Deal, setting: Setting, moment: Moment, text: string): Change {
  const after = revised({ ...deal, status: { state: 'voided', at: moment.happenedAt }, attempt: null });
  return settle(after, setting, moment, [journal(deal, moment, { kind: 'voided' }, text)]);
}
