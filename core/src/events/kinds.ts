import { activity } from './activity.ts';
import { created, imported } from './beginnings.ts';
import { edited, followUpChanged, renamed, ticked, unticked } from './edits.ts';
import type { EventKind } from './event.ts';
import { attemptWithdrawn, moved, refused, takenBack, versionChanged } from './moves.ts';
import { merged, textErased, voided } from './records.ts';

/** Everything that a deal's journal can say. A new event is its own object and its name here, and its look in the web. */
export const EVENT_KINDS = [
  created,
  imported,
  edited,
  renamed,
  ticked,
  unticked,
  moved,
  refused,
  attemptWithdrawn,
  takenBack,
  activity,
  versionChanged,
  followUpChanged,
  textErased,
  voided,
  merged,
] as const;

type BodyOf<E> = E extends EventKind<infer Kind, infer Body> ? { readonly kind: Kind } & Body : never;

/** What a journal entry says. */
export type JournalBody = BodyOf<(typeof EVENT_KINDS)[number]>;

export const JOURNAL_KINDS: readonly JournalBody['kind'][] = EVENT_KINDS.map(({ kind }) => kind);
