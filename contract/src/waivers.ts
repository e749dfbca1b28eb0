import { ITEM_STATES, LONGEST_WAIVER_DAYS, WAIVER_ENDS, WAIVER_ROLES } from '@ladder/core';
import { pieces } from './pieces.ts';
import {
  day,
  described,
  id,
  integer,
  list,
  named,
  nullable,
  object,
  oneOf,
  optional,
  tagged,
  text,
  yesNo,
} from './schema.ts';

/** A requirement that a waiver is asked for, as it is called now, and how it stood then. */
const item = object({ id: text(), says: pieces, state: oneOf(ITEM_STATES) });
const person = nullable(object({ id: id(), name: text() }));

/** What was asked for together, and what became of it. */
const waiver = named(
  'Waiver',
  object({
    request: integer(1),
    target: described(text({ min: 0 }), 'Where the move was to lead.'),
    items: list(item),
    why: text({ min: 0 }),
    until: day(),
    askedDay: day(),
    askedBy: person,
    state: described(
      oneOf(['asked', 'in_force', 'refused', 'withdrawn', 'lapsed', 'ended']),
      'Lapsed: the deal or its process went on before it was decided. Ended: it covers nothing any more.',
    ),
    decision: nullable(
      object({ by: nullable(text()), day: day(), word: nullable(text({ min: 0 })), until: nullable(day()) }),
    ),
    end: nullable(
      object({ how: oneOf(WAIVER_ENDS), by: nullable(text()), day: day(), word: nullable(text({ min: 0 })) }),
    ),
    may: object({ decide: yesNo(), withdraw: yesNo(), revoke: yesNo() }),
  }),
);

export const waivers = {
  waiver,
  /** Who may decide on waivers of a process, and for how long at most. */
  rights: object({ roles: list(oneOf(WAIVER_ROLES), WAIVER_ROLES.length), mostDays: integer(1, LONGEST_WAIVER_DAYS) }),
  deciding: named(
    'WaiverToDecide',
    object({
      waiver,
      verdict: described(list(item), 'The gate as it was when the waiver was asked for.'),
      before: described(list(waiver), 'What was asked of the deal before.'),
      often: described(
        list(object({ id: text(), granted: integer(0), refused: integer(0), deals: integer(0) })),
        'How often each requirement was waived in the process in the last twelve months, and of how many deals.',
      ),
    }),
  ),
  why: text(),
  decision: tagged(
    'how',
    object({ how: oneOf(['granted']), until: day(), word: optional(text()) }),
    object({ how: oneOf(['refused']), word: text() }),
  ),
  revoking: object({ word: text() }),
};
