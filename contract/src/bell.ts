import { NOTICE_KINDS } from '@ladder/core';
import {
  dealId,
  described,
  id,
  instant,
  integer,
  list,
  named,
  nullable,
  object,
  oneOf,
  optional,
  page,
  processId,
  text,
  yesNo,
} from './schema.ts';

const notice = named(
  'Notice',
  object({
    id: text({ max: 20 }),
    kind: oneOf(NOTICE_KINDS),
    deal: nullable(object({ id: dealId(), name: text() })),
    published: described(
      nullable(
        object({
          process: object({ id: processId(), name: text() }),
          number: integer(1),
          note: nullable(text({ min: 0 })),
          deals: described(integer(0), 'How many of one’s own open deals are of the process.'),
        }),
      ),
      'A version that was published.',
    ),
    event: described(nullable(text()), 'What was written into the journal, the last of it.'),
    by: nullable(text()),
    times: described(integer(1), 'How often the same was told while it was unread.'),
    at: instant(),
    read: yesNo(),
  }),
);

export const bell = {
  notice,
  page: page(notice),
  unread: object({ unread: integer(0) }),
  reading: object({
    notices: optional(described(list(text({ max: 20, pattern: /^\d+$/ }), 200), 'All, where it is left out.')),
  }),
  choices: object({
    digest: described(
      list(oneOf(NOTICE_KINDS), NOTICE_KINDS.length),
      'Kinds of notices of which those that are unread are sent as a message too, all in one, once a day at most.',
    ),
  }),
  watchers: object({ watching: yesNo(), people: list(object({ id: id(), name: text() })) }),
};
