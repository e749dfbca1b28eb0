import type { ActivityCounts, ActivitySpan } from '../../facts/activityKind.ts';
import { type Day, dayNumber, type Instant, localDay } from '../../time/day.ts';
import type { FactPart } from './part.ts';
import { presentVisit, type VisitsCarried } from './visits.ts';

export interface ActivitiesCarried {
  readonly lastActivityAt: Instant | null;
  readonly activityCounts: ActivityCounts;
}

interface ActivitiesKept {
  readonly activityCounts: ActivityCounts;
  /** Of the present stay; moves of the time before stays counted them have none. */
  readonly stayActivityCounts?: ActivityCounts;
  readonly lastActivityDay: Day | null;
}

interface ActivitiesRead {
  /** The day of the last call, message, meeting, visit or note, since 1970-01-01; null where there was none. */
  readonly lastActivityDay: number | null;
  readonly activityCounts: Readonly<Record<ActivitySpan, ActivityCounts | null>>;
}

/** How often something happened, in this stay and ever, and when it last did. */
export const activitiesPart: FactPart<
  ActivitiesCarried,
  ActivitiesRead,
  ActivitiesKept,
  ActivitiesCarried & VisitsCarried
> = {
  readsOf: ['visits'],
  facts: (deal, { zone }) => ({
    lastActivityDay: numberOf(dayOf(deal.lastActivityAt, zone)),
    activityCounts: { ever: deal.activityCounts, stay: presentVisit(deal).activityCounts },
  }),
  keep: (deal, { zone }) => ({
    activityCounts: deal.activityCounts,
    stayActivityCounts: presentVisit(deal).activityCounts,
    lastActivityDay: dayOf(deal.lastActivityAt, zone),
  }),
  recall: ({ lastActivityDay, activityCounts: ever, stayActivityCounts: stay = null }) => ({
    lastActivityDay: numberOf(lastActivityDay),
    activityCounts: { ever, stay },
  }),
};

const dayOf = (at: Instant | null, zone: string): Day | null => (at === null ? null : localDay(at, zone));
const numberOf = (day: Day | null): number | null => (day === null ? null : dayNumber(day));
