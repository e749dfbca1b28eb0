import type { tasks as contract, TypeOf } from '@ladder/contract';
import {
  addTask,
  addTaskSet,
  type Change,
  type DealId,
  endTask,
  MOST_OPEN_TASKS,
  passTask,
  putTaskOff,
  type Result,
  renameTask,
  reopenTask,
  type TaskProblem,
  type TaskSetProblem,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import type { Reply } from '../http/reply.ts';
import { invalid, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { holderOf } from './holder.ts';
import { type Command, runCommand } from './runCommand.ts';

type Body<K extends keyof typeof contract> = TypeOf<(typeof contract)[K]>;
interface TaskParams {
  readonly deal: DealId;
  readonly task: number;
}

/** Adds a task for someone who may change the deal, or for nobody yet. */
export async function addDealTask(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  { title, assignee, dueDay, dueTime }: Body<'newTask'>,
): Promise<Reply> {
  const mayHold = await holderOrNobody(tx, assignee, '/assignee');
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    mayHold(deal);
    return done(addTask(deal, setting, { title, assignee, dueDay, dueTime: dueTime ?? null }, moment));
  });
  return { body: detail };
}

/** Adds the tasks of one of the process's sets. */
export async function addDealTaskSet(
  context: Context,
  tx: EntityManager,
  person: Person,
  id: DealId,
  { set }: Body<'use'>,
): Promise<Reply> {
  const detail = await runCommand(context, tx, person, id, ({ deal, setting, moment }) => {
    const added = addTaskSet(deal, setting, set, moment);
    if (!added.ok) throw taskSetProblem(added.error);
    return added.value;
  });
  return { body: detail };
}

type TaskCommand = (
  context: Context,
  tx: EntityManager,
  person: Person,
  params: TaskParams,
  decide: (command: Command) => Result<Change, TaskProblem>,
) => Promise<Reply>;

const changeTask: TaskCommand = async (context, tx, person, { deal }, decide) => ({
  body: await runCommand(context, tx, person, deal, (command) => done(decide(command))),
});

export const endDealTask = (
  context: Context,
  tx: EntityManager,
  person: Person,
  params: TaskParams,
  { how }: Body<'ending'>,
): Promise<Reply> =>
  changeTask(context, tx, person, params, ({ deal, setting, moment }) =>
    endTask(deal, setting, params.task, how, moment),
  );

export const reopenDealTask = (
  context: Context,
  tx: EntityManager,
  person: Person,
  params: TaskParams,
): Promise<Reply> =>
  changeTask(context, tx, person, params, ({ deal, setting, moment }) =>
    reopenTask(deal, setting, params.task, moment),
  );

export const putDealTaskOff = (
  context: Context,
  tx: EntityManager,
  person: Person,
  params: TaskParams,
  { day, time, text }: Body<'puttingOff'>,
): Promise<Reply> =>
  changeTask(context, tx, person, params, ({ deal, setting, moment }) =>
    putTaskOff(deal, setting, params.task, { day, time: time ?? null, text }, moment),
  );

export const renameDealTask = (
  context: Context,
  tx: EntityManager,
  person: Person,
  params: TaskParams,
  { title }: Body<'naming'>,
): Promise<Reply> =>
  changeTask(context, tx, person, params, ({ deal, setting, moment }) =>
    renameTask(deal, setting, params.task, title, moment),
  );

/** Passes a task to someone who may change the deal, or to nobody. */
export async function passDealTask(
  context: Context,
  tx: EntityManager,
  person: Person,
  params: TaskParams,
  body: Body<'passing'>,
): Promise<Reply> {
  const mayHold = await holderOrNobody(tx, body.person, '/person');
  return changeTask(context, tx, person, params, ({ deal, setting, moment }) => {
    mayHold(deal);
    return passTask(deal, setting, params.task, body.person, moment);
  });
}

const holderOrNobody = async (tx: EntityManager, id: string | null, pointer: string): ReturnType<typeof holderOf> =>
  id === null ? () => undefined : holderOf(tx, id, pointer);

function done(result: Result<Change, TaskProblem>): Change {
  if (!result.ok) throw taskProblem(result.error);
  return result.value;
}

export function taskProblem({ code }: TaskProblem): Problem {
  switch (code) {
    case 'voided':
      return new Problem(409, 'This deal is voided; there is nothing to do about it.');
    case 'no_such_task':
      return new Problem(409, 'There is no such task: it may be that what had made it was taken back.');
    case 'ended':
      return new Problem(409, 'This task was ended meanwhile.');
    case 'not_ended':
      return new Problem(409, 'This task is to be done already.');
    case 'in_the_past':
      return invalid([{ pointer: '/day', detail: 'Choose today or a day to come.' }]);
    case 'text_needed':
      return invalid([{ pointer: '/text', detail: 'Say why.' }]);
    case 'no_title':
      return invalid([{ pointer: '/title', detail: 'Say what is to be done.' }]);
    case 'too_many':
      return new Problem(409, TOO_MANY);
  }
}

const TOO_MANY = `A deal has at most ${MOST_OPEN_TASKS} open tasks. End some of them first.`;

function taskSetProblem({ code }: TaskSetProblem): Problem {
  switch (code) {
    case 'closed':
      return new Problem(409, 'This deal is closed; sets of tasks are for open ones.');
    case 'no_such_set':
      return invalid([{ pointer: '/set', detail: 'The deal’s version of the process has no such set of tasks.' }]);
    case 'too_many':
      return new Problem(409, TOO_MANY);
  }
}
