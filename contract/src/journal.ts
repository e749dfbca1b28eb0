import { ACTIVITY_KINDS, type FactValue, GATE_ANSWERS, type JournalBody, MOVE_KINDS } from '@ladder/core';
import { facts } from './facts.ts';
import {
  day,
  id,
  integer,
  type Known,
  key,
  list,
  named,
  nullable,
  object,
  oneOf,
  optional,
  tagged,
  text,
} from './schema.ts';

const link = object({ deal: id(), name: text() });
const value = facts.value as Known<FactValue>;

/** What a journal entry says, one shape a kind. */
export const journalBody = named(
  'JournalBody',
  tagged(
    'kind',
    object({ kind: oneOf(['created', 'imported']), stage: key(), name: text() }),
    object({ kind: oneOf(['edited']), changes: list(object({ field: key(), before: value, after: value })) }),
    object({ kind: oneOf(['renamed']), before: text(), after: text() }),
    object({ kind: oneOf(['ticked', 'unticked']), item: key(), stage: nullable(key()), text: text({ min: 0 }) }),
    object({
      kind: oneOf(['moved']),
      seq: integer(1),
      move: oneOf(MOVE_KINDS),
      from: nullable(key()),
      to: nullable(key()),
      over: list(key()),
      answer: oneOf(GATE_ANSWERS),
      open: list(text()),
      forced: oneOf(['no', 'yes']),
      reason: nullable(key()),
    }),
    object({ kind: oneOf(['refused']), from: key(), target: text(), open: list(text()) }),
    object({ kind: oneOf(['attempt_withdrawn']), target: text() }),
    object({
      kind: oneOf(['taken_back']),
      seq: integer(1),
      move: oneOf(MOVE_KINDS),
      from: nullable(key()),
      to: nullable(key()),
    }),
    object({ kind: oneOf(['activity']), activity: oneOf(ACTIVITY_KINDS) }),
    object({ kind: oneOf(['version_changed']), before: id(), after: id() }),
    object({ kind: oneOf(['follow_up_changed']), before: nullable(day()), after: nullable(day()) }),
    object({ kind: oneOf(['text_erased']), seq: integer(1) }),
    object({ kind: oneOf(['voided']), duplicateOf: optional(link) }),
    object({ kind: oneOf(['merged']), duplicate: link }),
  ),
) as Known<JournalBody>;
