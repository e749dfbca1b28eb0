import {
  anyDay,
  dealId,
  described,
  id,
  integer,
  list,
  named,
  object,
  oneOf,
  page,
  processId,
  tagged,
  text,
} from './schema.ts';

const MOST_HOLIDAYS = 2_000;

const written = {
  name: text({ max: 200 }),
  workingWeekdays: described(list(integer(1, 7), 7), 'From 1, Monday, to 7, Sunday.'),
  holidays: list(object({ day: anyDay(), name: text({ min: 0, max: 200 }) }), MOST_HOLIDAYS),
};

const calendar = named(
  'WorkingCalendar',
  object({ id: id(), ...written, processes: list(object({ id: processId(), name: text() })) }),
);

/** What is changed: a calendar, or which of them a process goes by. */
const asked = tagged(
  'what',
  object({ what: oneOf(['calendar']), calendar: id(), ...written }),
  object({ what: oneOf(['process']), process: processId(), calendar: id() }),
);

export const calendars = {
  written: object(written),
  calendar,
  page: page(calendar),
  change: object({ ...written, saw: described(object(written), 'What it was before.') }),
  choice: object({ calendar: id(), saw: described(id(), 'By which it went before.') }),
  asked,
  effect: named(
    'CalendarEffect',
    object({
      moveOn: integer(0),
      steps: integer(0),
      tasks: integer(0),
      first: described(
        list(
          object({
            deal: object({ id: dealId(), name: text() }),
            part: oneOf(['visit', 'run', 'task']),
            name: described(text({ min: 0 }), 'Of the stage’s step, or of the task.'),
            before: anyDay(),
            after: anyDay(),
          }),
          100,
        ),
        'The earliest of them.',
      ),
    }),
  ),
};
