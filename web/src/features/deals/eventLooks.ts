import type { DealLink, JournalBody } from '@ladder/core';

/** Which part of the journal shows an event, beside everything. */
export type JournalView = 'moves' | 'activities' | 'facts';

/** How an event looks in the journal: its tag, where it is shown, and where it leads. */
interface EventLook<Body = JournalBody> {
  readonly tag: string | ((body: Body) => string);
  readonly view: JournalView;
  readonly leadsTo?: (body: Body) => DealLink | undefined;
}

const EVENT_LOOKS: { readonly [Kind in JournalBody['kind']]: EventLook<Extract<JournalBody, { kind: Kind }>> } = {
  created: { tag: 'Begun', view: 'moves' },
  imported: { tag: 'Import', view: 'moves' },
  edited: { tag: 'Field', view: 'facts' },
  renamed: { tag: 'Name', view: 'facts' },
  ticked: { tag: 'Tick', view: 'facts' },
  unticked: { tag: 'Untick', view: 'facts' },
  moved: { tag: 'Move', view: 'moves' },
  refused: { tag: 'Refused', view: 'moves' },
  attempt_withdrawn: { tag: 'Gave up', view: 'facts' },
  taken_back: { tag: 'Back', view: 'moves' },
  activity: { tag: ({ activity }) => activity.charAt(0).toUpperCase() + activity.slice(1), view: 'activities' },
  version_changed: { tag: 'Version', view: 'facts' },
  follow_up_changed: { tag: 'Follow-up', view: 'facts' },
  text_erased: { tag: 'Erased', view: 'facts' },
  voided: { tag: 'Void', view: 'facts', leadsTo: ({ duplicateOf }) => duplicateOf },
  merged: { tag: 'Merge', view: 'facts', leadsTo: ({ duplicate }) => duplicate },
};

/** How the event that a journal entry tells of looks. */
export function lookOf(body: JournalBody): { tag: string; view: JournalView; leadsTo: DealLink | undefined } {
  const { tag, view, leadsTo } = EVENT_LOOKS[body.kind] as EventLook;
  return { view, tag: typeof tag === 'string' ? tag : tag(body), leadsTo: leadsTo?.(body) };
}
