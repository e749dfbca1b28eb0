import { EVENT_KINDS, type JournalBody } from '@ladder/core';
import { id, type Known, named, object, oneOf, optional, tagged } from './schema.ts';
import { schemasOf } from './shapes.ts';

/** What a journal entry says, one form a kind of event. */
export const journalBody = named(
  'JournalBody',
  tagged(
    'kind',
    ...EVENT_KINDS.map(({ kind, shape }) =>
      object({ kind: oneOf([kind]), ...schemasOf(shape), insteadOf: optional(id()) }),
    ),
  ),
) as Known<JournalBody>;
