import type { ActivityKind } from '../../events/activity.ts';
import { type Day, dayNumber, type Instant, localDay } from '../../time/day.ts';
import type { FactPart } from './part.ts';

type Counts = Readonly<Record<ActivityKind, number>>;

export interface ActivitiesCarried {
  readonly lastActivityAt: Instant | null;
  readonly activityCounts: Counts;
}

interface ActivitiesKept {
  readonly activityCounts: Counts;
  readonly lastActivityDay: Day | null;
}

interface ActivitiesRead {
  /** The day of the last call, message, meeting, visit or note, since 1970-01-01; null where there was none. */
  readonly lastActivityDay: number | null;
}

export const NO_ACTIVITY: Counts = { note: 0, call: 0, message: 0, meeting: 0, visit: 0 };

/** How often something happened, and when it last did. */
export const activitiesPart: FactPart<ActivitiesCarried, ActivitiesRead, ActivitiesKept> = {
  facts: ({ lastActivityAt }, { zone }) => ({ lastActivityDay: numberOf(dayOf(lastActivityAt, zone)) }),
  keep: ({ activityCounts, lastActivityAt }, { zone }) => ({
    activityCounts,
    lastActivityDay: dayOf(lastActivityAt, zone),
  }),
  recall: ({ lastActivityDay }) => ({ lastActivityDay: numberOf(lastActivityDay) }),
};

const dayOf = (at: Instant | null, zone: string): Day | null => (at === null ? null : localDay(at, zone));
const numberOf = (day: Day | null): number | null => (day === null ? null : dayNumber(day));
