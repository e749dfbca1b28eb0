import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { journal, momentFor, settle } from './settle.ts';

/** Writes down that the free text of a journal entry is erased; the entry itself stays, with its chain (S36). */
export function recordErasure(deal: Deal, setting: Setting, seq: number, asked: Moment): Change {
  const moment = momentFor(deal, asked);
  return settle({ ...deal }, setting, moment, [journal(deal, moment, { kind: 'text_erased', seq })]);
}
