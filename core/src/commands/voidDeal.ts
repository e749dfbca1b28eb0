import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { DealLink } from '../events/records.ts';
import { journal, momentFor, revised, settle } from './settle.ts';

/** Takes a deal that was a test or a duplicate out of all measures; its journal stays, and names the deal it repeats (S11). */
export function voidDeal(
  deal: Deal,
  setting: Setting,
  asked: Moment,
  text: string,
  duplicateOf: DealLink | null = null,
): Change {
  const moment = momentFor(deal, asked);
  const after = revised({ ...deal, status: { state: 'voided', at: moment.happenedAt }, attempt: null });
  const body = { kind: 'voided', ...(duplicateOf ? { duplicateOf } : {}) } as const;
  return settle(after, setting, moment, [journal(deal, moment, body, text)]);
}

/** Writes into the journal of the deal that stays which one was merged into it; nothing else of it changes. */
export function recordMerge(deal: Deal, setting: Setting, asked: Moment, duplicate: DealLink): Change {
  const moment = momentFor(deal, asked);
  return settle({ ...deal }, setting, moment, [journal(deal, moment, { kind: 'merged', duplicate })]);
}
