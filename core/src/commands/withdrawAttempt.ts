import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { changeSurely, journal, type SureStep } from './change.ts';

/** Gives a refused move up: what its gate asks is missing again, not a finding (S16). */
export const withdrawAttempt = (deal: Deal, setting: Setting, asked: Moment): Change =>
  changeSurely(deal, setting, asked, withdrawStep);

const withdrawStep: SureStep = (deal, moment) => {
  if (!deal.attempt) return { deal, records: [] };
  const body = { kind: 'attempt_withdrawn', target: deal.attempt.target } as const;
  return { deal: { ...deal, attempt: null }, records: [journal(deal, moment, body)] };
};
