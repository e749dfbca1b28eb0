import type { MessageAction } from '../steps/step.ts';
import type { Target } from '../time/calendar.ts';

export const MOST_TASK_SETS = 50;
export const MOST_SET_TASKS = 20;
export const MOST_ARRIVALS = 10;

/** To whom a task of a set falls: the deal's owner at that time, a person, or nobody until someone takes it. */
export type TaskWho = { readonly by: 'owner' | 'nobody' } | { readonly by: 'person'; readonly person: string };
export const TASK_WHO = ['owner', 'person', 'nobody'] as const satisfies readonly TaskWho['by'][];

/** A task as it is designed. */
export interface SetTask {
  readonly id: string;
  readonly title: string;
  readonly who: TaskWho;
  /** So many days after the set is used; none is the same day. */
  readonly due: Target;
}

/** Tasks that belong together, designed once and used wherever they are needed. */
export interface TaskSet {
  readonly id: string;
  readonly name: string;
  readonly tasks: readonly SetTask[];
  /** Whether they are made again where a deal that came back arrives anew, or ends a step anew. */
  readonly afterReturn: 'keep' | 'again';
}

/** What happens as a deal arrives in a stage. */
export type Arrival = { readonly do: 'add_tasks'; readonly set: string } | MessageAction;

/** A set as it is added: one task, for the deal's owner, in a day. */
export const newTaskSet = (
  id: string,
  name: string,
  task: { readonly id: string; readonly title: string },
): TaskSet => ({
  id,
  name,
  tasks: [newSetTask(task)],
  afterReturn: 'keep',
});

/** A task as it is added to a set. */
export const newSetTask = (named: { readonly id: string; readonly title: string }): SetTask => ({
  ...named,
  who: { by: 'owner' },
  due: { days: 1, counting: 'working' },
});
