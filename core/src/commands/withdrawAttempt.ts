import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { journal, momentFor, settle } from './settle.ts';

/** Gives a refused move up: what its gate asks is missing again, not a finding (S16). */
export function withdrawAttempt(deal: Deal, setting: Setting, asked: Moment): Change {
  if (!deal.attempt) return { deal, records: [] };
  const moment = momentFor(deal, asked);
  const body = { kind: 'attempt_withdrawn', target: deal.attempt.target } as const;
  return settle({ ...deal, attempt: null }, setting, moment, [journal(deal, moment, body)]);
}
