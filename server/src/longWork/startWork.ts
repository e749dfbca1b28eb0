import { RESPOND_ASYNC, type WorkKindName } from '@ladder/contract';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { command } from '../http/command.ts';
import { type Reply, reply } from '../http/reply.ts';
import { newId } from '../ids.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { findWork, insertWork, type WorkView } from './repository.ts';

/** A work that is asked for. */
export interface AskedWork {
  readonly kind: WorkKindName;
  readonly subject: string;
  readonly request: object;
  readonly total?: number;
}

/** Writes down that a work is to be done; it begins once the transaction has committed and `context.wake` was called. */
async function beginWork(
  tx: EntityManager,
  person: Person,
  { total = 0, ...work }: AskedWork,
  now: number,
): Promise<string> {
  const id = newId(now);
  if (await insertWork(tx, { ...work, id, by: person.id, total: total || null }, now)) return id;
  throw new Problem(409, 'Something that concerns all of this is under way already. Wait until it has ended.', {}, 2);
}

interface Asked {
  readonly person: Person;
  readonly request: Request;
}

/** Begins a work once for its Idempotency-Key, and gives its id. */
async function begin(
  context: Context,
  asked: Asked,
  start: (tx: EntityManager) => Promise<AskedWork>,
): Promise<string> {
  const begun = await command(context, asked, async (tx) =>
    reply({ work: await beginWork(tx, asked.person, await start(tx), context.clock.now()) }),
  );
  const { work } = begun.body as { work: string };
  await context.wake(work);
  return work;
}

/** A command that begins a long work, and is answered at once with what it is done to. */
export async function startedCommand(
  context: Context,
  asked: Asked,
  start: (tx: EntityManager) => Promise<AskedWork>,
  answer: () => Promise<unknown>,
): Promise<Reply> {
  await begin(context, asked, start);
  return reply(await answer());
}

/**
 * A command that goes through a whole book: done behind the request, and answered as soon as it has ended; at once where
 * the caller prefers that.
 */
export async function longCommand(
  context: Context,
  asked: Asked,
  start: (tx: EntityManager) => Promise<AskedWork>,
  answer: (work: WorkView) => Promise<unknown>,
): Promise<Reply> {
  const work = await begin(context, asked, start);
  if (asked.request.get('Prefer')?.includes(RESPOND_ASYNC))
    return { ...reply(await requireWork(context, work), { 'Preference-Applied': RESPOND_ASYNC }), status: 202 };
  const ended = await untilEnded(context, work);
  if (ended.state === 'cancelled') throw new Problem(409, 'This was cancelled. Nothing was changed.');
  if (ended.problem) throw problemOf(ended.problem);
  return reply(await answer(ended));
}

function problemOf({ status, detail = '', errors }: NonNullable<WorkView['problem']>): Problem {
  return new Problem(status, detail, errors ? { errors } : {});
}

export async function requireWork(context: Context, id: string): Promise<WorkView> {
  const work = await findWork(context.dataSource, id);
  if (!work) throw notFound('work');
  return work;
}

const FIRST_LOOK_MS = 15;
const LONGEST_PAUSE_MS = 500;

async function untilEnded(context: Context, id: string): Promise<WorkView> {
  for (let pause = FIRST_LOOK_MS; ; pause = Math.min(pause * 1.5, LONGEST_PAUSE_MS)) {
    const work = await requireWork(context, id);
    if (work.state !== 'running') return work;
    await context.outOfHand(id, pause);
  }
}
