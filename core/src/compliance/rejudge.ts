import type { Deal } from '../deals/deal.ts';
import type { Setting } from '../deals/setting.ts';
import type { Instant } from '../time/day.ts';
import { expectedFindings } from './expectedFindings.ts';
import { reviseFindings } from './reviseFindings.ts';

/** The one function that keeps findings (S20): every command ends with it. */
export function rejudge(deal: Deal, setting: Setting, now: Instant): Deal {
  const { findings, attempt } = expectedFindings(deal, setting, now);
  return {
    ...deal,
    findings: reviseFindings(deal.findings, findings, now),
    attempt: attempt === 'settled' ? null : deal.attempt,
  };
}
