import { LONGEST_MESSAGE, LONGEST_SUBJECT, LONGEST_TEMPLATE, MESSAGE_STATES } from '@ladder/core';
import {
  dealId,
  described,
  id,
  instant,
  integer,
  key,
  list,
  named,
  nullable,
  object,
  oneOf,
  page,
  processId,
  text,
  yesNo,
} from './schema.ts';

/** To whom the messages of a template go: the deal's owner, or its contact, whose address a field of theirs holds. */
const to = object({ who: oneOf(['owner', 'contact']), field: nullable(described(key(), 'The field of the contact.')) });
const subject = text({ max: LONGEST_SUBJECT });
const body = text({ max: LONGEST_TEMPLATE });

const template = named(
  'MessageTemplate',
  object({
    id: id(),
    name: text({ max: 100 }),
    process: described(nullable(object({ id: processId(), name: text() })), 'Null where all processes share it.'),
    to,
    subject,
    body,
  }),
);

const written = object({
  name: described(text({ min: 0, max: 200 }), 'Who gets it.'),
  address: described(text({ max: 320 }), 'One mail address.'),
  subject: text({ max: LONGEST_SUBJECT }),
  body: text({ max: LONGEST_MESSAGE }),
});

const message = named(
  'Message',
  object({
    id: id(),
    deal: nullable(object({ id: dealId(), name: text() })),
    template: nullable(text()),
    state: oneOf(MESSAGE_STATES),
    to: object({ name: text({ min: 0 }), address: text({ min: 0 }) }),
    subject: text({ min: 0 }),
    body: text({ min: 0, max: LONGEST_MESSAGE }),
    problem: described(nullable(text({ max: 2_000 })), 'Why it was not sent yet.'),
    tries: integer(0),
    nextTryAt: nullable(instant()),
    madeAt: instant(),
    by: described(nullable(text()), 'Who confirmed it, or else who had it made.'),
    sentAt: nullable(instant()),
  }),
);

export const messages = {
  template,
  templatesPage: page(template),
  newTemplate: object({ name: text({ max: 100 }), process: nullable(processId()), to, subject, body }),
  draft: object({
    name: text({ min: 0 }),
    address: text({ min: 0 }),
    subject: text({ min: 0, max: LONGEST_MESSAGE }),
    body: text({ min: 0, max: LONGEST_MESSAGE }),
    missing: described(list(text()), 'What the template wants and the deal does not tell.'),
  }),
  written,
  message,
  page: page(message),
  ofDeal: object({ items: list(message) }),
  standIn: object({ fails: yesNo(), via: oneOf(['stand_in', 'smtp']) }),
  standInChange: object({ fails: yesNo() }),
};
