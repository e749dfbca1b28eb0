import { dateText } from '../criteria/phrase.ts';
import { TASK_ENDS, type TaskEnding } from '../tasks/task.ts';
import type { Day } from '../time/day.ts';
import { type EventKind, plain, strong } from './event.ts';

/* How a task is called stands apart as the entry's free text, so that it can be erased; of one put off, that is why. */

interface OfTask {
  /** Which of the deal's tasks it is about. */
  readonly task: number;
}

const OF_TASK = { task: { is: 'count' } } as const;
const OR_NOBODY = { is: 'or_none', of: { is: 'id' } } as const;

interface Added extends OfTask {
  readonly due: Day;
  readonly to: string | null;
  /** How the set is called that it came from. */
  readonly set: string | null;
}

const taskAdded: EventKind<'task_added', Added> = {
  kind: 'task_added',
  shape: { ...OF_TASK, due: { is: 'day' }, to: OR_NOBODY, set: { is: 'or_none', of: { is: 'name' } } },
  says: ({ due, to, set }, { nameOf }) => [
    strong('Task'),
    plain(
      `${set === null ? '' : ` of “${set}”`} for ${to === null ? 'nobody yet' : (nameOf(to) ?? 'someone unknown')}, due ${dateText(due)}`,
    ),
  ],
};

const ENDED: Readonly<Record<TaskEnding, string>> = {
  done: ' done',
  cancelled: ' cancelled',
  withdrawn: ' withdrawn, as what had made it was taken back',
};

const taskEnded: EventKind<'task_ended', OfTask & { readonly how: TaskEnding }> = {
  kind: 'task_ended',
  shape: { ...OF_TASK, how: { is: 'one_of', values: TASK_ENDS } },
  says: ({ how }) => [strong('Task'), plain(ENDED[how])],
};

const taskReopened: EventKind<'task_reopened', OfTask> = {
  kind: 'task_reopened',
  shape: OF_TASK,
  says: () => [strong('Task'), plain(' is to be done again')],
};

const taskPutOff: EventKind<'task_put_off', OfTask & { readonly before: Day; readonly after: Day }> = {
  kind: 'task_put_off',
  shape: { ...OF_TASK, before: { is: 'day' }, after: { is: 'day' } },
  says: ({ before, after }) => [
    strong('Task'),
    plain(
      before === after
        ? ` due ${dateText(after)} at another time`
        : ` put off from ${dateText(before)} to ${dateText(after)}`,
    ),
  ],
};

const taskPassed: EventKind<'task_passed', OfTask & { readonly to: string | null }> = {
  kind: 'task_passed',
  shape: { ...OF_TASK, to: OR_NOBODY },
  says: ({ to }, { nameOf }) => [
    strong('Task'),
    plain(' passed to '),
    strong(to === null ? 'nobody' : (nameOf(to) ?? 'someone unknown')),
  ],
};

const taskRenamed: EventKind<'task_renamed', OfTask> = {
  kind: 'task_renamed',
  shape: OF_TASK,
  says: () => [strong('Task'), plain(' is called otherwise now')],
};

export const TASK_EVENTS = [taskAdded, taskEnded, taskReopened, taskPutOff, taskPassed, taskRenamed] as const;
