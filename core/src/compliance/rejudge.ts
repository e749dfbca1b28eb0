import type { Deal } from '../deals/deal.ts';
import type { Finding } from '../deals/finding.ts';
import type { Setting } from '../deals/setting.ts';
import type { Instant } from '../time/day.ts';
import { type Expected, expectedFindings } from './expectedFindings.ts';
import { reviseFindings } from './reviseFindings.ts';

/** The deal with its findings as they are to be kept (S20): every command ends with it, but for one that brings a history. */
export function rejudge(deal: Deal, setting: Setting, now: Instant): Deal {
  return keeping(deal, deal.findings, expectedFindings(deal, setting, now), now);
}

/** The same of a deal that brings its history: what is found on it has been so since it became so. */
export function judgeBrought(deal: Deal, setting: Setting, now: Instant): Deal {
  const expected = expectedFindings(deal, setting, now);
  const begun = expected.findings.filter(({ openedAt }) => openedAt < now);
  return keeping(deal, begun, expected, now);
}

const keeping = (deal: Deal, kept: readonly Finding[], { findings, attempt }: Expected, now: Instant): Deal => ({
  ...deal,
  findings: reviseFindings(kept, findings, now),
  attempt: attempt === 'settled' ? null : deal.attempt,
});
