import { rejudge } from '../compliance/rejudge.ts';
import type { Deal } from '../deals/deal.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change, DealRecord } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { reviseSpans } from '../deals/spans.ts';
import type { JournalBody } from '../events/kinds.ts';

/**
 * When a command happens: never before the deal's newest record, for clocks differ from server to server and may be set
 * back. Every command begins with it. An earlier `happenedAt`, of what is written down late, stays.
 */
export function momentFor(deal: Deal, asked: Moment): Moment {
  const recordedAt = Math.max(asked.recordedAt, deal.settledAt);
  const isLate = asked.happenedAt < asked.recordedAt;
  return { ...asked, recordedAt, happenedAt: isLate ? asked.happenedAt : recordedAt };
}

/** The end of every command: spans and findings are brought in line with the deal as it now is. */
export function settle(deal: Deal, setting: Setting, moment: Moment, records: readonly DealRecord[]): Change {
  const at = moment.recordedAt;
  const settled: Deal = { ...deal, spans: reviseSpans(deal, at), settledAt: at };
  return { deal: rejudge(settled, setting, at), records };
}

/** The deal after a change of something that a gate can read (S34). */
export const revised = (deal: Deal): Deal => ({ ...deal, revision: deal.revision + 1 });

/** A journal entry about the deal as it stands. */
export function journal(deal: Deal, moment: Moment, body: JournalBody, text: string | null = null): DealRecord {
  return { kind: 'journal', entry: { body, text, stage: presentVisit(deal).stage, ...moment } };
}
