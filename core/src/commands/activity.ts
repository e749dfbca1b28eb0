import { withoutIdleness } from '../compliance/idleness.ts';
import { rejudge } from '../compliance/rejudge.ts';
import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { ActivityCounts, ActivityKind } from '../facts/activityKind.ts';
import { changeSurely, journal, type SureStep } from './change.ts';

/** Writes down a call, message, meeting, visit or note; possible on closed deals too (S12). It does not raise the revision. */
export const recordActivity = (deal: Deal, setting: Setting, kind: ActivityKind, text: string, asked: Moment): Change =>
  changeSurely(deal, setting, asked, activityStep(setting, kind, text));

const counted = (counts: ActivityCounts, kind: ActivityKind): ActivityCounts => ({
  ...counts,
  [kind]: counts[kind] + 1,
});

/** The stays, the one in which it happened knowing of it. */
const countedInStay = ({ visits }: Deal, kind: ActivityKind, at: number): Deal['visits'] =>
  visits.map((visit) => {
    const isThen =
      visit.takenBack === 'no' && visit.enteredAt <= at && at < (visit.left?.at ?? Number.POSITIVE_INFINITY);
    return isThen ? { ...visit, activityCounts: counted(visit.activityCounts, kind) } : visit;
  });

/**
 * One that is written down late ends idleness from when it happened (S20): nothing else of the deal has changed since its
 * newest record, so from there on it is judged as it would have been.
 */
export const activityStep =
  (setting: Setting, kind: ActivityKind, text: string): SureStep =>
  (deal, moment) => {
    const { happenedAt, recordedAt, by } = moment;
    const previousAt = deal.lastActivityAt;
    const after: Deal = {
      ...deal,
      lastActivityAt: Math.max(previousAt ?? Number.NEGATIVE_INFINITY, happenedAt),
      activityCounts: counted(deal.activityCounts, kind),
      visits: countedInStay(deal, kind, happenedAt),
      findings: withoutIdleness(deal, setting, happenedAt),
    };
    const since = Math.max(happenedAt, deal.settledAt);
    return {
      deal: since < recordedAt ? rejudge(after, setting, since) : after,
      records: [
        { kind: 'activity', activity: { kind, happenedAt, recordedAt, by, previousAt } },
        journal(after, moment, { kind: 'activity', activity: kind }, text),
      ],
    };
  };
