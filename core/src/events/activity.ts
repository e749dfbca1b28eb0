import type { EventKind } from './event.ts';

export const ACTIVITY_KINDS = ['note', 'call', 'message', 'meeting', 'visit'] as const;
export type ActivityKind = (typeof ACTIVITY_KINDS)[number];

/** Something done; what there is to tell is its free text. */
const activity: EventKind<'activity', { readonly activity: ActivityKind }> = {
  kind: 'activity',
  shape: { activity: { is: 'one_of', values: ACTIVITY_KINDS } },
  says: () => [],
};

export const ACTIVITY_EVENTS = [activity] as const;
