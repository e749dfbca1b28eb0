import type { Piece } from '../criteria/phrase.ts';
import type { EventKind, EventWords } from './event.ts';
import { EVENT_KINDS, type JournalBody } from './kinds.ts';

const BY_NAME: ReadonlyMap<string, EventKind<string, object>> = new Map(
  EVENT_KINDS.map((event): [string, EventKind<string, object>] => [event.kind, event]),
);

/** A journal entry in words; its free text stands beside it. */
export const describeEntry = (body: JournalBody, words: EventWords): readonly Piece[] =>
  BY_NAME.get(body.kind)?.says(body, words) ?? [];
