import { ACTIVITY_KINDS, type ActivityKind } from '../facts/activityKind.ts';
import type { EventKind } from './event.ts';

/** Something done; what there is to tell is its free text. */
const activity: EventKind<'activity', { readonly activity: ActivityKind }> = {
  kind: 'activity',
  shape: { activity: { is: 'one_of', values: ACTIVITY_KINDS } },
  says: () => [],
};

export const ACTIVITY_EVENTS = [activity] as const;
