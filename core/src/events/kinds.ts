import { ACTIVITY_EVENTS } from './activity.ts';
import { BEGINNING_EVENTS } from './beginnings.ts';
import { DOCUMENT_EVENTS } from './documents.ts';
import { EDIT_EVENTS } from './edits.ts';
import type { EventKind } from './event.ts';
import { MOVE_EVENTS } from './moves.ts';
import { RECORD_EVENTS } from './records.ts';
import { STEP_EVENTS } from './steps.ts';
import { TASK_EVENTS } from './tasks.ts';
import { WAIVER_EVENTS } from './waivers.ts';

/** Everything that a deal's journal can say, by subject. A new event is its own object in the list of its subject, and its look in the web. */
export const EVENT_KINDS = [
  ...BEGINNING_EVENTS,
  ...EDIT_EVENTS,
  ...STEP_EVENTS,
  ...TASK_EVENTS,
  ...WAIVER_EVENTS,
  ...MOVE_EVENTS,
  ...ACTIVITY_EVENTS,
  ...DOCUMENT_EVENTS,
  ...RECORD_EVENTS,
] as const;

type BodyOf<E> = E extends EventKind<infer Kind, infer Body> ? { readonly kind: Kind } & Body : never;

/** What a journal entry says. */
export type JournalBody = BodyOf<(typeof EVENT_KINDS)[number]> & {
  /** The person who is away and for whom it was done. */
  readonly insteadOf?: string;
};

export const JOURNAL_KINDS: readonly JournalBody['kind'][] = EVENT_KINDS.map(({ kind }) => kind);
