import type { Problem } from '../criteria/check.ts';
import type { MessageAction } from '../steps/step.ts';
import { LONGEST_TITLE } from '../tasks/task.ts';
import { MOST_ARRIVALS, MOST_SET_TASKS, MOST_TASK_SETS, type SetTask, type TaskSet } from '../tasks/taskSet.ts';
import { checkNames } from './checkNames.ts';
import { type ProcessDocument, taskSetOf } from './document.ts';

const LAST_DUE = 3_650;

/** What keeps a document's sets of tasks, and what happens on arrival, from being published. */
export function checkTasks(document: ProcessDocument): readonly Problem[] {
  const { taskSets, stages } = document;
  return [
    ...(taskSets.length > MOST_TASK_SETS
      ? [{ pointer: '/taskSets', detail: `A process has at most ${MOST_TASK_SETS} sets of tasks.` }]
      : []),
    ...checkNames(taskSets, '/taskSets', 'set of tasks', 'this process'),
    ...taskSets.flatMap((set, place) => checkSet(set, `/taskSets/${place}`)),
    ...stages.flatMap(({ arrival }, place) => checkArrival(arrival, document, `/stages/${place}/arrival`)),
  ];
}

/** What is wrong with a use of a set. */
export const checkSetUsed = (set: string, document: ProcessDocument, pointer: string): readonly Problem[] =>
  taskSetOf(document, set)
    ? []
    : [
        {
          pointer: `${pointer}/set`,
          detail: 'The set of tasks that is used here is gone. Choose another, or take it out.',
        },
      ];

function checkSet({ tasks }: TaskSet, pointer: string): readonly Problem[] {
  return [
    ...(tasks.length > 0 ? [] : [{ pointer: `${pointer}/tasks`, detail: 'A set needs a task at least.' }]),
    ...(tasks.length > MOST_SET_TASKS
      ? [{ pointer: `${pointer}/tasks`, detail: `A set has at most ${MOST_SET_TASKS} tasks.` }]
      : []),
    ...tasks.flatMap((task, place) => checkTask(task, `${pointer}/tasks/${place}`)),
  ];
}

function checkTask({ title, who, due }: SetTask, pointer: string): readonly Problem[] {
  const isGoodDue = Number.isInteger(due.days) && due.days >= 0 && due.days <= LAST_DUE;
  return [
    ...(title.trim() === '' ? [{ pointer: `${pointer}/title`, detail: 'Say what is to be done.' }] : []),
    ...(title.length > LONGEST_TITLE
      ? [{ pointer: `${pointer}/title`, detail: `A task is said in at most ${LONGEST_TITLE} characters.` }]
      : []),
    ...(who.by === 'person' && who.person === ''
      ? [{ pointer: `${pointer}/who/person`, detail: 'Choose the person who does the task.' }]
      : []),
    ...(isGoodDue
      ? []
      : [{ pointer: `${pointer}/due/days`, detail: 'A task is due after a whole number of days from 0 to 3,650.' }]),
  ];
}

/** Which templates there are is not the document's to know; that one is chosen is. */
export const checkMessage = ({ template }: MessageAction, pointer: string): readonly Problem[] =>
  template === '' ? [{ pointer: `${pointer}/template`, detail: 'Choose which message is prepared.' }] : [];

function checkArrival(
  arrival: ProcessDocument['stages'][number]['arrival'],
  document: ProcessDocument,
  pointer: string,
): readonly Problem[] {
  return [
    ...(arrival.length > MOST_ARRIVALS
      ? [{ pointer, detail: `At most ${MOST_ARRIVALS} things are done on arrival.` }]
      : []),
    ...arrival.flatMap((one, place) =>
      one.do === 'message'
        ? checkMessage(one, `${pointer}/${place}`)
        : [
            ...checkSetUsed(one.set, document, `${pointer}/${place}`),
            ...(arrival.findIndex((other) => other.do === 'add_tasks' && other.set === one.set) < place
              ? [{ pointer: `${pointer}/${place}/set`, detail: 'This set is used already.' }]
              : []),
          ],
    ),
  ];
}
