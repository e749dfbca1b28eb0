import { type CalendarItem, DAY_GROUPS, type DayItem } from '@ladder/core';
import { facts } from './facts.ts';
import {
  day,
  dealId,
  described,
  id,
  instant,
  integer,
  type Known,
  list,
  named,
  nullable,
  object,
  oneOf,
  processId,
  stageId,
  tagged,
  text,
} from './schema.ts';

const whose = { person: nullable(id()) };

/** Why a deal is on somebody's day. */
const step = object({
  kind: oneOf(['step']),
  run: integer(1),
  name: text({ min: 0 }),
  dueDay: nullable(day()),
  owed: oneOf(['no', 'yes']),
  ...whose,
});
const task = object({
  kind: oneOf(['task']),
  task: integer(1),
  title: text(),
  dueDay: day(),
  dueTime: nullable(text({ max: 5 })),
  ...whose,
});
const nextAction = object({ kind: oneOf(['next_action']), text: text({ max: 20_000 }), dueDay: day(), ...whose });
const item = tagged(
  'kind',
  step,
  task,
  nextAction,
  object({
    kind: oneOf(['waiver']),
    request: integer(1),
    items: integer(1),
    askedBy: nullable(id()),
    dueDay: day(),
    ...whose,
  }),
  object({ kind: oneOf(['held']), since: day(), findings: integer(1), ...whose }),
  object({ kind: oneOf(['follow_up', 'past_target']), dueDay: day(), ...whose }),
  object({ kind: oneOf(['idle']), dueDay: day(), activeDay: day(), allowedDays: integer(1), ...whose }),
) as Known<DayItem>;

/** What stands on a day of a calendar. */
const calendarItem = tagged(
  'kind',
  step,
  task,
  nextAction,
  object({ kind: oneOf(['follow_up', 'close_date']), dueDay: day(), ...whose }),
) as Known<CalendarItem>;

const entry = named(
  'DayEntry',
  object({
    deal: object({
      id: dealId(),
      name: text(),
      customer: nullable(text()),
      process: object({ id: processId(), name: text() }),
      stage: described(
        object({ id: stageId(), name: text(), place: integer(0), of: integer(1) }),
        'Its place on the ladder, 0 on top.',
      ),
      status: oneOf(['open', 'won', 'lost']),
      reason: described(nullable(text()), 'Why it was closed.'),
      owner: nullable(text()),
      value: nullable(facts.money),
    }),
    group: oneOf(DAY_GROUPS),
    daysLate: integer(0),
    weightedMinor: described(integer(), 'Value times chance, in the organisation’s currency.'),
    item,
    others: list(item),
  }),
);

const counts = object(
  Object.fromEntries(DAY_GROUPS.map((group) => [group, integer(0)])) as Record<
    (typeof DAY_GROUPS)[number],
    Known<number>
  >,
);

export const today = {
  entry,
  day: named(
    'Today',
    object({
      today: day(),
      currency: text({ max: 3 }),
      whose: object({
        kind: oneOf(['person', 'team']),
        id: id(),
        name: text(),
        alsoFor: described(
          list(object({ id: id(), name: text() })),
          'People who are away, and whose day this one is for that time too.',
        ),
      }),
      counts,
      done: described(integer(0), 'Steps and tasks that were done today.'),
      items: list(entry),
      names: described(list(object({ id: id(), name: text() })), 'Of the people named in it.'),
      next: nullable(text()),
    }),
  ),
  calendar: named(
    'DueCalendar',
    object({
      today: day(),
      items: list(
        object({
          deal: object({ id: dealId(), name: text(), stage: text({ min: 0 }), status: oneOf(['open', 'won', 'lost']) }),
          item: calendarItem,
        }),
      ),
      left: described(integer(0), 'How many more there are than are told.'),
      names: list(object({ id: id(), name: text() })),
    }),
  ),
  feed: named('CalendarFeed', object({ madeAt: nullable(instant()), readAt: nullable(instant()) })),
  newFeed: object({ path: described(text(), 'Its address, told this once.'), madeAt: instant() }),
  late: object({ held: integer(0), late: integer(0) }),
  done: named(
    'DoneToday',
    object({
      items: list(
        object({
          deal: object({ id: dealId(), name: text() }),
          what: text({ min: 0 }),
          how: text({ min: 0 }),
          at: text(),
        }),
      ),
    }),
  ),
  handOver: object({
    person: id(),
    items: list(
      tagged(
        'kind',
        object({ kind: oneOf(['step']), deal: dealId(), run: integer(1, 2_147_483_647) }),
        object({ kind: oneOf(['task']), deal: dealId(), task: integer(1, 2_147_483_647) }),
      ),
      100,
    ),
  }),
  handedOver: object({ items: integer(0) }),
};
