import { ms } from './columns.ts';
import type { StoredPart } from './storedPart.ts';

/** When something last happened stands in the head, for activities raise no revision and rewrite nothing else. */
export const activitiesStored: StoredPart<'activities'> = {
  select: { lastActivityAt: ms('h.last_activity_at'), activityCounts: 'd.activity_counts' },
  row: ({ activityCounts }) => ({ activity_counts: activityCounts }),
};
