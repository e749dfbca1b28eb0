import type { TaskEnding } from '../../tasks/task.ts';
import type { Day, Instant } from '../../time/day.ts';
import type { Actor } from '../actor.ts';
import type { DealPart } from './part.ts';

export interface TaskEnd {
  readonly how: TaskEnding;
  readonly at: Instant;
  readonly day: Day;
  readonly by: Actor;
  /** The move with which it was cancelled. */
  readonly moveSeq: number | null;
}

/** Where a task of a set came from. */
export interface TaskOrigin {
  readonly set: string;
  /** Which of the set's tasks it is. */
  readonly item: string;
  /** The move with which it was made; null where a result made it, or a person. */
  readonly moveSeq: number | null;
}

/** Something to do about a deal, by a day. */
export interface Task {
  readonly seq: number;
  readonly title: string;
  /** Null while it is nobody's. */
  readonly assignee: string | null;
  readonly dueDay: Day;
  /** Whether that day was counted in working days, and not set by hand, so that it goes with the calendar. */
  readonly inWorkingDays: 'no' | 'yes';
  /** `HH:MM`, in the organisation's zone; null where any time of the day will do. */
  readonly dueTime: string | null;
  readonly madeAt: Instant;
  readonly madeBy: Actor;
  /** Null where somebody wrote it. */
  readonly origin: TaskOrigin | null;
  /** Null while it is open. */
  readonly end: TaskEnd | null;
}

export interface TasksCarried {
  /** In the order in which they were made. */
  readonly tasks: readonly Task[];
}

/** Tasks, open and ended. No gate reads them. */
export const tasksPart: DealPart<TasksCarried> = { begins: { tasks: [] } };

/** Those that are still to be done, by day and time, the earliest first. */
export const openTasks = ({ tasks }: TasksCarried): readonly Task[] =>
  tasks.filter(({ end }) => end === null).sort(byDue);

/** A task of a day without a time comes after those that have one. */
const byDue = (a: Task, b: Task): number => compare(dueKey(a), dueKey(b)) || a.seq - b.seq;

const dueKey = ({ dueDay, dueTime }: Task): string => `${dueDay} ${dueTime ?? '24:00'}`;

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
