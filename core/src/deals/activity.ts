import type { ActivityKind, Deal } from './deal.ts';
import type { Change } from './record.ts';
import type { Moment, Setting } from './setting.ts';
import { journal, settle } from './settle.ts';

/** Writes down a call, message, meeting, visit or note; possible on closed deals too (S12). It does not raise the revision. */
export function recordActivity(deal: Deal, setting: Setting, kind: ActivityKind, text: string, moment: Moment): Change {
  const lastActivityAt = Math.max(deal.lastActivityAt ?? Number.NEGATIVE_INFINITY, moment.happenedAt);
  const after: Deal = {
    ...deal,
    lastActivityAt,
    activityCounts: { ...deal.activityCounts, [kind]: deal.activityCounts[kind] + 1 },
  };
  const previousAt = deal.lastActivityAt;
  return settle(after, setting, { ...moment, happenedAt: moment.recordedAt }, [
    {
      kind: 'activity',
      activity: { kind, happenedAt: moment.happenedAt, recordedAt: moment.recordedAt, by: moment.by, previousAt },
    },
    journal(after, moment, { kind: 'activity', activity: kind }, text),
  ]);
}
