import type { Piece } from '../criteria/phrase.ts';
import { type EventKind, type EventWords, plain } from './event.ts';
import { EVENT_KINDS, type JournalBody } from './kinds.ts';

const BY_NAME: ReadonlyMap<string, EventKind<string, object>> = new Map(
  EVENT_KINDS.map((event): [string, EventKind<string, object>] => [event.kind, event]),
);

/** A journal entry in words; its free text stands beside it. */
export function describeEntry({ insteadOf, ...body }: JournalBody, words: EventWords): readonly Piece[] {
  const says = BY_NAME.get(body.kind)?.says(body, words) ?? [];
  return insteadOf === undefined ? says : [...says, plain(`, for ${words.nameOf(insteadOf) ?? 'someone'}`)];
}
