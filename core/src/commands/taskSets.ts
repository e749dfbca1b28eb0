import type { Deal } from '../deals/deal.ts';
import { openTasks } from '../deals/parts/tasks.ts';
import { textValue } from '../deals/parts/values.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { StageId } from '../ids.ts';
import { stageOf, taskSetOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import { MOST_OPEN_TASKS } from '../tasks/task.ts';
import type { Arrival, TaskSet, TaskWho } from '../tasks/taskSet.ts';
import { inWorkingDays, moveOnDay } from '../time/calendar.ts';
import { localDay } from '../time/day.ts';
import { changeBy, type Stepped } from './change.ts';
import { messageToPrepare } from './messages.ts';
import { withNewTask } from './tasks.ts';

export interface TaskSetProblem {
  readonly code: 'closed' | 'no_such_set' | 'too_many';
}

/** Adds a set's tasks by hand, whether it was used before or not. Errors: a closed deal, no such set, more open tasks than a deal may have. */
export const addTaskSet = (
  deal: Deal,
  setting: Setting,
  setId: string,
  asked: Moment,
): Result<Change, TaskSetProblem> =>
  changeBy<TaskSetProblem>(deal, setting, asked, (before, moment) => {
    if (before.status.state !== 'open') return failed({ code: 'closed' });
    const set = taskSetOf(setting.document, setId);
    if (!set) return failed({ code: 'no_such_set' });
    if (openTasks(before).length + set.tasks.length > MOST_OPEN_TASKS) return failed({ code: 'too_many' });
    return ok(withTasksOf(before, set, null, setting, moment));
  });

/**
 * The deal with the tasks of a set, as a stage or a result uses it: those that were made before are not made twice, unless the
 * set says so (S58), and none beyond what a deal may have.
 */
export function withTaskSet(
  deal: Deal,
  set: TaskSet,
  moveSeq: number | null,
  setting: Setting,
  moment: Moment,
): Stepped {
  const made = new Set(
    set.afterReturn === 'again'
      ? []
      : deal.tasks.flatMap(({ origin, end }) =>
          origin?.set === set.id && end?.how !== 'withdrawn' ? [origin.item] : [],
        ),
  );
  const room = MOST_OPEN_TASKS - openTasks(deal).length;
  const tasks = set.tasks.filter(({ id }) => !made.has(id)).slice(0, Math.max(0, room));
  return withTasksOf(deal, { ...set, tasks }, moveSeq, setting, moment);
}

/** The deal with what its stage says happens on arrival. */
export function arrive(deal: Deal, stage: StageId, moveSeq: number, setting: Setting, moment: Moment): Stepped {
  return (stageOf(setting.document, stage)?.arrival ?? []).reduce<Stepped>(
    (arriving, arrival) => {
      const done = carryOutArrival(arriving.deal, arrival, moveSeq, setting, moment);
      return { deal: done.deal, records: [...arriving.records, ...done.records] };
    },
    { deal, records: [] },
  );
}

function carryOutArrival(deal: Deal, arrival: Arrival, moveSeq: number, setting: Setting, moment: Moment): Stepped {
  if (arrival.do === 'message') return { deal, records: [messageToPrepare(arrival.template, arrival.how, moment)] };
  const set = taskSetOf(setting.document, arrival.set);
  return set ? withTaskSet(deal, set, moveSeq, setting, moment) : { deal, records: [] };
}

function withTasksOf(deal: Deal, set: TaskSet, moveSeq: number | null, setting: Setting, moment: Moment): Stepped {
  const day = localDay(moment.happenedAt, setting.zone);
  return set.tasks.reduce<Stepped>(
    (adding, { id, title, who, due }) => {
      const task = {
        title,
        assignee: assigneeOf(who, deal),
        dueDay: moveOnDay(day, due, setting.calendar),
        inWorkingDays: inWorkingDays(due),
        dueTime: null,
        origin: { set: set.id, item: id, moveSeq },
      };
      const added = withNewTask(adding.deal, task, set.name, moment);
      return { deal: added.deal, records: [...adding.records, ...added.records] };
    },
    { deal, records: [] },
  );
}

function assigneeOf(who: TaskWho, deal: Deal): string | null {
  switch (who.by) {
    case 'owner':
      return textValue(deal, 'owner');
    case 'person':
      return who.person;
    case 'nobody':
      return null;
  }
}
