/** A task's title is a line, not a letter. */
export const LONGEST_TITLE = 300;
/** More open tasks than this are no help to anybody. */
export const MOST_OPEN_TASKS = 100;

/** A time of day as tasks have it: `09:30`. */
export const TIME_OF_DAY = /^([01]\d|2[0-3]):[0-5]\d$/;

/** What becomes of a deal's open tasks as it moves. */
export const TASK_FATES = ['keep', 'cancel', 'ask'] as const;
export type TaskFate = (typeof TASK_FATES)[number];

/** The moves for which a process says so. */
export const TASK_MOVES = ['forward', 'return', 'closing'] as const;
export type TaskMove = (typeof TASK_MOVES)[number];

export type TaskFates = Readonly<Record<TaskMove, TaskFate>>;

/** What a process does before anyone says otherwise: whoever closes a deal is asked. */
export const USUAL_TASK_FATES: TaskFates = { forward: 'keep', return: 'keep', closing: 'ask' };

/** How a task ended: it was done, it is not needed any more, or what had made it was taken back. */
export const TASK_ENDS = ['done', 'cancelled', 'withdrawn'] as const;
export type TaskEnding = (typeof TASK_ENDS)[number];
