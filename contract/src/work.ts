import { problem } from './problem.ts';
import { described, id, instant, integer, named, nullable, object, oneOf, page, text } from './schema.ts';

export const WORK_KINDS = [
  'import',
  'take_back',
  'publish',
  'house_rules',
  'rate',
  'leaving',
  'choice',
  'formula',
  'calendar',
] as const;
export type WorkKindName = (typeof WORK_KINDS)[number];

/** *Cancelled* and *failed* work changed nothing; of what goes some at a time, such as a choice, what was done stays. */
export const WORK_STATES = ['running', 'done', 'failed', 'cancelled'] as const;

/** Work that goes through a whole book, behind the request that asked for it. */
const view = named(
  'Work',
  object({
    id: id(),
    kind: oneOf(WORK_KINDS),
    subject: described(
      text({ max: 80 }),
      'What is worked on, by one work at a time: a process, an import, a person who leaves, a field, `calendars`, or `rates`.',
    ),
    state: oneOf(WORK_STATES),
    by: text(),
    startedAt: instant(),
    endedAt: nullable(instant()),
    done: described(integer(0), 'Rows of an import, deals else.'),
    total: nullable(integer(0)),
    cancel: described(oneOf(['may', 'asked', 'over']), 'Whether it may be cancelled still.'),
    deals: described(nullable(integer(0)), 'How many deals were changed, once it is done.'),
    problem: nullable(problem),
  }),
);

export const work = { view, page: page(view) };
