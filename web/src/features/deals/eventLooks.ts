import type { DealLink, JournalBody } from '@ladder/core';
import {
  ArrowCounterclockwise,
  ArrowDownUp,
  ArrowUpRight,
  CalendarEvent,
  ChatLeft,
  CheckSquare,
  Eraser,
  FileEarmarkArrowUp,
  type Icon,
  Intersect,
  Layers,
  ListCheck,
  Paperclip,
  PatchCheck,
  PatchQuestion,
  Pencil,
  PersonCheck,
  Plus,
  Signpost,
  SlashCircle,
  Square,
  Tag,
  XCircle,
} from 'react-bootstrap-icons';

/** Which part of the journal shows an event, beside everything. */
export type JournalView = 'moves' | 'activities' | 'facts';

/** How an event looks in the journal: its icon and tag, where it is shown, and where it leads. */
interface EventLook<Body = JournalBody> {
  readonly icon: Icon;
  readonly tag: string | ((body: Body) => string);
  readonly view: JournalView;
  readonly leadsTo?: (body: Body) => DealLink | undefined;
}

const EVENT_LOOKS: { readonly [Kind in JournalBody['kind']]: EventLook<Extract<JournalBody, { kind: Kind }>> } = {
  created: { icon: Plus, tag: 'Begun', view: 'moves' },
  imported: { icon: FileEarmarkArrowUp, tag: 'Import', view: 'moves' },
  reopened: { icon: ArrowCounterclockwise, tag: 'Reopened', view: 'moves' },
  begun_from: { icon: ArrowUpRight, tag: 'Begun', view: 'moves', leadsTo: ({ from }) => from },
  went_on: { icon: ArrowUpRight, tag: 'Goes on', view: 'moves', leadsTo: ({ next }) => next },
  edited: { icon: Pencil, tag: 'Field', view: 'facts' },
  renamed: { icon: Tag, tag: 'Name', view: 'facts' },
  ticked: { icon: CheckSquare, tag: 'Tick', view: 'facts' },
  unticked: { icon: Square, tag: 'Untick', view: 'facts' },
  step_ended: { icon: Signpost, tag: 'Step', view: 'activities' },
  result_taken_back: { icon: ArrowCounterclockwise, tag: 'Back', view: 'activities' },
  step_noted: { icon: ChatLeft, tag: 'Note', view: 'activities' },
  step_stuck: { icon: SlashCircle, tag: 'Stuck', view: 'activities' },
  step_put_off: { icon: CalendarEvent, tag: 'Put off', view: 'facts' },
  step_passed: { icon: PersonCheck, tag: 'Passed', view: 'facts' },
  task_added: { icon: ListCheck, tag: 'Task', view: 'activities' },
  task_ended: { icon: CheckSquare, tag: 'Task', view: 'activities' },
  task_reopened: { icon: Square, tag: 'Task', view: 'activities' },
  task_put_off: { icon: CalendarEvent, tag: 'Put off', view: 'facts' },
  task_passed: { icon: PersonCheck, tag: 'Passed', view: 'facts' },
  task_renamed: { icon: Tag, tag: 'Task', view: 'facts' },
  waiver_asked: { icon: PatchQuestion, tag: 'Waiver', view: 'facts' },
  waiver_decided: { icon: PatchCheck, tag: 'Waiver', view: 'facts' },
  waiver_withdrawn: { icon: XCircle, tag: 'Waiver', view: 'facts' },
  waiver_revoked: { icon: SlashCircle, tag: 'Revoked', view: 'facts' },
  moved: { icon: ArrowDownUp, tag: 'Move', view: 'moves' },
  refused: { icon: SlashCircle, tag: 'Refused', view: 'moves' },
  attempt_withdrawn: { icon: XCircle, tag: 'Gave up', view: 'facts' },
  taken_back: { icon: ArrowCounterclockwise, tag: 'Back', view: 'moves' },
  activity: {
    icon: ChatLeft,
    tag: ({ activity }) => activity.charAt(0).toUpperCase() + activity.slice(1),
    view: 'activities',
  },
  version_changed: { icon: Layers, tag: 'Version', view: 'facts' },
  reassigned: { icon: PersonCheck, tag: 'Owner', view: 'facts' },
  follow_up_changed: { icon: CalendarEvent, tag: 'Follow-up', view: 'facts' },
  days_recounted: { icon: CalendarEvent, tag: 'Days', view: 'facts' },
  document_attached: { icon: Paperclip, tag: 'Document', view: 'facts' },
  document_removed: { icon: Paperclip, tag: 'Document', view: 'facts' },
  text_erased: { icon: Eraser, tag: 'Erased', view: 'facts' },
  voided: { icon: XCircle, tag: 'Void', view: 'facts', leadsTo: ({ duplicateOf }) => duplicateOf },
  merged: { icon: Intersect, tag: 'Merge', view: 'facts', leadsTo: ({ duplicate }) => duplicate },
};

/** How the event that a journal entry tells of looks. */
export function lookOf(body: JournalBody): {
  icon: Icon;
  tag: string;
  view: JournalView;
  leadsTo: DealLink | undefined;
} {
  const { icon, tag, view, leadsTo } = EVENT_LOOKS[body.kind] as EventLook;
  return { icon, view, tag: typeof tag === 'string' ? tag : tag(body), leadsTo: leadsTo?.(body) };
}

/** What each kind of event is called in short, where its own words are not at hand. */
export const EVENT_TAGS: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries(EVENT_LOOKS).map(([kind, { tag }]) => [kind, typeof tag === 'string' ? tag : 'Activity']),
);
