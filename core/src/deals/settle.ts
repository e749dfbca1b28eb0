import { rejudge } from '../compliance/rejudge.ts';
import type { Deal } from './deal.ts';
import { presentVisit } from './deal.ts';
import type { Change, DealRecord, JournalBody } from './record.ts';
import type { Moment, Setting } from './setting.ts';
import { reviseSpans } from './spans.ts';

/** The end of every command: spans and findings are brought in line with the deal as it now is. */
export function settle(deal: Deal, setting: Setting, moment: Moment, records: readonly DealRecord[]): Change {
  const at = moment.happenedAt;
  return { deal: rejudge({ ...deal, spans: reviseSpans(deal, at) }, setting, at), records };
}

/** The deal after a change of something that a gate can read (S34). */
export const revised = (deal: Deal): Deal => ({ ...deal, revision: deal.revision + 1 });

/** A journal entry about the deal as it stands. */
export function journal(deal: Deal, moment: Moment, body: JournalBody, text: string | null = null): DealRecord {
  return { kind: 'journal', entry: { body, text, stage: presentVisit(deal).stage, ...moment } };
}
