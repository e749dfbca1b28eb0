import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { changeSurely, journal } from './change.ts';

/** Writes down that the free text of a journal entry is erased; the entry itself stays, with its chain (S36). */
export const recordErasure = (deal: Deal, setting: Setting, seq: number, asked: Moment): Change =>
  changeSurely(deal, setting, asked, (before, moment) => ({
    deal: { ...before },
    records: [journal(before, moment, { kind: 'text_erased', seq })],
  }));
