import { LONGEST_TITLE, MOST_SET_TASKS, TASK_ENDS, type TaskSet, TIME_OF_DAY } from '@ladder/core';
import {
  day,
  described,
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

const who = tagged(
  'by',
  object({ by: oneOf(['owner', 'nobody']) }),
  object({ by: oneOf(['person']), person: text({ min: 0, max: 100 }) }),
);

/** A set of tasks, as a process document has it. */
export const taskSet = object({
  id: key(),
  name: text({ min: 0, max: 120 }),
  tasks: list(
    object({
      id: key(),
      title: text({ min: 0, max: LONGEST_TITLE }),
      who,
      due: object({ days: integer(0, 3_650), counting: oneOf(['calendar', 'working']) }),
    }),
    MOST_SET_TASKS,
  ),
  afterReturn: oneOf(['keep', 'again']),
}) as Known<TaskSet>;

const title = text({ max: LONGEST_TITLE });
const timeOfDay = described(
  text({ max: 5, pattern: TIME_OF_DAY, what: 'a time of day, as 14:00' }),
  'HH:MM, in the organisation’s time zone.',
);

/** A task of a deal. */
const task = named(
  'Task',
  object({
    seq: integer(1),
    title: described(text({ min: 0, max: LONGEST_TITLE }), 'Empty where it was erased.'),
    person: nullable(object({ id: id(), name: text() })),
    dueDay: day(),
    dueTime: nullable(timeOfDay),
    daysLate: integer(0),
    /** How the set is called that it came from. */
    set: nullable(text({ min: 0 })),
    end: nullable(object({ how: oneOf(TASK_ENDS), day: day(), by: nullable(text()) })),
  }),
);

export const tasks = {
  task,
  newTask: object({ title, assignee: nullable(id()), dueDay: day(), dueTime: optional(timeOfDay) }),
  use: object({ set: key() }),
  ending: object({ how: oneOf(['done', 'cancelled']) }),
  puttingOff: object({ day: day(), time: optional(timeOfDay), text: text() }),
  passing: object({ person: nullable(id()) }),
  naming: object({ title }),
};
