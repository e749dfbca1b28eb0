import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { DealLink } from '../events/dealLink.ts';
import { changeSurely, journal, revised, type SureStep } from './change.ts';
import { leaveThreads } from './thread.ts';

/** Takes a deal that was a test or a duplicate out of all measures; its journal stays, and names the deal it repeats (S11). */
export const voidDeal = (
  deal: Deal,
  setting: Setting,
  asked: Moment,
  text: string,
  duplicateOf: DealLink | null = null,
): Change => changeSurely(deal, setting, asked, voidStep(setting, text, duplicateOf));

/** The same as a step. */
export const voidStep =
  (setting: Setting, text: string, duplicateOf: DealLink | null): SureStep =>
  (deal, moment) => {
    const body = { kind: 'voided', ...(duplicateOf ? { duplicateOf } : {}) } as const;
    const when = { at: moment.happenedAt, by: moment.by };
    const left = leaveThreads(deal, 'lost', null, null, when, setting);
    return {
      deal: revised({ ...left, status: { state: 'voided', at: moment.happenedAt }, attempt: null }),
      records: [journal(deal, moment, body, text)],
    };
  };

/** Writes into the journal of the deal that stays which one was merged into it; nothing else of it changes. */
export const recordMerge = (deal: Deal, setting: Setting, asked: Moment, duplicate: DealLink): Change =>
  changeSurely(deal, setting, asked, (before, moment) => ({
    deal: { ...before },
    records: [journal(before, moment, { kind: 'merged', duplicate })],
  }));
