/** What people do with a deal beside changing it. */
export const ACTIVITY_KINDS = ['note', 'call', 'message', 'meeting', 'visit'] as const;
export type ActivityKind = (typeof ACTIVITY_KINDS)[number];

/** Counted since the present stay began, or since the deal did. */
export const ACTIVITY_SPANS = ['stay', 'ever'] as const;
export type ActivitySpan = (typeof ACTIVITY_SPANS)[number];

/** How often each kind of activity happened. */
export type ActivityCounts = Readonly<Record<ActivityKind, number>>;
export const NO_ACTIVITY: ActivityCounts = { note: 0, call: 0, message: 0, meeting: 0, visit: 0 };

/** What each kind is called. */
export const ACTIVITY_WORDS: Readonly<Record<ActivityKind, { readonly one: string; readonly many: string }>> = {
  note: { one: 'note', many: 'notes' },
  call: { one: 'call', many: 'calls' },
  message: { one: 'message', many: 'messages' },
  meeting: { one: 'meeting', many: 'meetings' },
  visit: { one: 'visit', many: 'visits' },
};
