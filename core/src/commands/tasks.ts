import type { Deal } from '../deals/deal.ts';
import { openTasks, type Task } from '../deals/parts/tasks.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { JournalBody } from '../events/kinds.ts';
import { failed, ok, type Result } from '../result.ts';
import { MOST_OPEN_TASKS, type TaskEnding } from '../tasks/task.ts';
import { type Day, localDay } from '../time/day.ts';
import { changeBy, journal, type Step, type Stepped } from './change.ts';

/** A task as somebody asks for it. */
export type NewTask = Pick<Task, 'title' | 'assignee' | 'dueDay' | 'dueTime'>;

export interface TaskProblem {
  readonly code:
    | 'voided'
    | 'no_such_task'
    | 'ended'
    | 'not_ended'
    | 'in_the_past'
    | 'text_needed'
    | 'no_title'
    | 'too_many';
}

type TaskStep = Step<TaskProblem>;

/** Adds a task; possible on closed deals too (S12). Errors: a voided deal, no title, more open tasks than a deal may have. */
export const addTask = (deal: Deal, setting: Setting, task: NewTask, asked: Moment): Result<Change, TaskProblem> =>
  changeBy<TaskProblem>(deal, setting, asked, (before, moment) => {
    if (before.status.state === 'voided') return failed({ code: 'voided' });
    if (task.title.trim() === '') return failed({ code: 'no_title' });
    if (openTasks(before).length >= MOST_OPEN_TASKS) return failed({ code: 'too_many' });
    return ok(withNewTask(before, { ...task, inWorkingDays: 'no', origin: null }, null, moment));
  });

/** The deal with a task more; of a set, with the set's name. */
export function withNewTask(
  deal: Deal,
  { title, assignee, dueDay, dueTime, inWorkingDays, origin }: NewTask & Pick<Task, 'origin' | 'inWorkingDays'>,
  set: string | null,
  moment: Moment,
): Stepped {
  const task: Task = {
    seq: deal.tasks.length + 1,
    title: title.trim(),
    assignee,
    dueDay,
    inWorkingDays,
    dueTime,
    madeAt: moment.happenedAt,
    madeBy: moment.by,
    origin,
    end: null,
  };
  const after = { ...deal, tasks: [...deal.tasks, task] };
  const body = { kind: 'task_added', task: task.seq, due: dueDay, to: assignee, set } as const;
  return { deal: after, records: [journal(after, moment, body, task.title)] };
}

/** A task is done, or not needed any more. Errors: it is not open. */
export const endTask = (
  deal: Deal,
  setting: Setting,
  seq: number,
  how: 'done' | 'cancelled',
  asked: Moment,
): Result<Change, TaskProblem> => changeBy(deal, setting, asked, endTaskStep(setting, seq, how));

/** The same as a step; `withdrawn` where what had made it is taken back. */
export const endTaskStep = (setting: Setting, seq: number, how: TaskEnding, moveSeq: number | null = null): TaskStep =>
  changed(seq, 'open', (task, { happenedAt: at, by }) => ({
    task: { ...task, end: { how, at, day: localDay(at, setting.zone), by, moveSeq } },
    body: { kind: 'task_ended', task: task.seq, how },
    text: task.title,
  }));

/** A task that was done or cancelled is to be done again. Errors: it is open, or what had made it was taken back. */
export const reopenTask = (deal: Deal, setting: Setting, seq: number, asked: Moment): Result<Change, TaskProblem> =>
  changeBy(
    deal,
    setting,
    asked,
    changed(seq, 'ended', (task) => ({
      task: { ...task, end: null },
      body: { kind: 'task_reopened', task: task.seq },
      text: task.title,
    })),
  );

export interface TaskPutOff {
  readonly day: Day;
  readonly time: string | null;
  /** Why. */
  readonly text: string;
}

/** A task is due on another day; why is asked. Errors: not open, a day that is past, no reason. */
export const putTaskOff = (
  deal: Deal,
  setting: Setting,
  seq: number,
  { day, time, text }: TaskPutOff,
  asked: Moment,
): Result<Change, TaskProblem> =>
  changeBy<TaskProblem>(deal, setting, asked, (before, moment) => {
    if (text.trim() === '') return failed({ code: 'text_needed' });
    if (day < localDay(moment.recordedAt, setting.zone)) return failed({ code: 'in_the_past' });
    return changed(seq, 'open', (task) => {
      if (task.dueDay === day && task.dueTime === time) return null;
      const body = { kind: 'task_put_off', task: task.seq, before: task.dueDay, after: day } as const;
      return { task: { ...task, dueDay: day, dueTime: time, inWorkingDays: 'no' }, body, text };
    })(before, moment);
  });

/** A task falls to this person from now on, or to nobody. Errors: not open. */
export const passTask = (
  deal: Deal,
  setting: Setting,
  seq: number,
  person: string | null,
  asked: Moment,
): Result<Change, TaskProblem> => changeBy(deal, setting, asked, passTaskStep(seq, person));

/** The same as a step. */
export const passTaskStep = (seq: number, person: string | null): TaskStep =>
  changed(seq, 'open', (task) => {
    if (task.assignee === person) return null;
    const body = { kind: 'task_passed', task: task.seq, to: person } as const;
    return { task: { ...task, assignee: person }, body, text: task.title };
  });

/** A task is called otherwise. Errors: not open, no title. */
export const renameTask = (
  deal: Deal,
  setting: Setting,
  seq: number,
  title: string,
  asked: Moment,
): Result<Change, TaskProblem> =>
  changeBy<TaskProblem>(deal, setting, asked, (before, moment) => {
    const named = title.trim();
    if (named === '') return failed({ code: 'no_title' });
    return changed(seq, 'open', (task) =>
      task.title === named
        ? null
        : { task: { ...task, title: named }, body: { kind: 'task_renamed', task: task.seq }, text: named },
    )(before, moment);
  });

/** The deal with its open tasks cancelled by a move. */
export const cancelOpenTasks = (deal: Deal, moveSeq: number, setting: Setting, moment: Moment): Stepped =>
  endTasks(deal, openTasks(deal), 'cancelled', moveSeq, setting, moment);

/** The deal as if a move had not been made: tasks that it cancelled are open again, and those that it made are not needed. */
export function restoreTasks(deal: Deal, moveSeq: number, setting: Setting, moment: Moment): Stepped {
  const made = openTasks(deal).filter(({ origin }) => origin?.moveSeq === moveSeq);
  const without = endTasks(deal, made, 'withdrawn', null, setting, moment);
  const isCancelledBy = ({ end }: Task): boolean => end !== null && end.moveSeq === moveSeq;
  if (!without.deal.tasks.some(isCancelledBy)) return without;
  const tasks = without.deal.tasks.map((task) => (isCancelledBy(task) ? { ...task, end: null } : task));
  return { ...without, deal: { ...without.deal, tasks } };
}

/** The deal without those of these tasks that are still open: what had made them is taken back. */
export const withdrawTasks = (deal: Deal, seqs: readonly number[], setting: Setting, moment: Moment): Stepped =>
  endTasks(
    deal,
    openTasks(deal).filter(({ seq }) => seqs.includes(seq)),
    'withdrawn',
    null,
    setting,
    moment,
  );

const endTasks = (
  deal: Deal,
  tasks: readonly Task[],
  how: TaskEnding,
  moveSeq: number | null,
  setting: Setting,
  moment: Moment,
): Stepped =>
  tasks.reduce<Stepped>(
    (ending, { seq }) => {
      const ended = endTaskStep(setting, seq, how, moveSeq)(ending.deal, moment);
      return ended.ok ? { deal: ended.value.deal, records: [...ending.records, ...ended.value.records] } : ending;
    },
    { deal, records: [] },
  );

interface TaskChange {
  readonly task: Task;
  readonly body: JournalBody;
  readonly text: string;
}

/** The step of a change of one task; null changes nothing. No gate reads tasks, so the revision stays (S34). */
const changed =
  (seq: number, must: 'open' | 'ended', change: (task: Task, moment: Moment) => TaskChange | null): TaskStep =>
  (deal, moment) => {
    if (deal.status.state === 'voided') return failed({ code: 'voided' });
    const task = deal.tasks.find((one) => one.seq === seq);
    if (!task || task.end?.how === 'withdrawn') return failed({ code: 'no_such_task' });
    if (must === 'open' && task.end !== null) return failed({ code: 'ended' });
    if (must === 'ended' && task.end === null) return failed({ code: 'not_ended' });
    const made = change(task, moment);
    if (!made) return ok({ deal, records: [] });
    const after = { ...deal, tasks: deal.tasks.map((old) => (old.seq === seq ? made.task : old)) };
    return ok({ deal: after, records: [journal(after, moment, made.body, made.text)] });
  };
