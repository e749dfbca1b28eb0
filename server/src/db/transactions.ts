import { setTimeout as sleep } from 'node:timers/promises';
import type { DataSource, EntityManager } from 'typeorm';
import { Problem } from '../problems/problem.ts';
import { isConnectionLost, isLockTimeout, OutcomeUnknown, sqlState } from './failures.ts';
import { inOrder } from './inOrder.ts';

type Isolation = 'READ COMMITTED' | 'REPEATABLE READ';
export type Work<T> = (tx: EntityManager) => Promise<T>;

/** How long a command waits for what someone else holds before it is told to try again. */
const LOCK_PATIENCE_MS = 5_000;
/** So many commands wait at once; more are told at once. */
const MOST_WAITING = 200;
const MOST_TRIES = 4;
const PAUSE_MS = 30;

const DEADLOCK = '40P01';
const SERIALIZATION = '40001';
const ABORTED = '25P02';

/**
 * One transaction on one connection. Where the connection is lost while it commits, nobody knows whether it did: that is
 * told apart from a failure.
 */
async function oneTransaction<T>(
  source: DataSource,
  work: Work<T>,
  isolation: Isolation = 'READ COMMITTED',
): Promise<T> {
  const runner = source.createQueryRunner();
  let isCommitting = false;
  try {
    // The database's own is READ COMMITTED: said again, it would cost a round trip.
    await (isolation === 'READ COMMITTED' ? runner.startTransaction() : runner.startTransaction(isolation));
    const result = await work(runner.manager);
    // Where the connection is gone by now, nothing is sent, and nothing was committed.
    isCommitting = !runner.isReleased;
    await inOrder(...sentAhead(runner.manager), runner.commitTransaction());
    for (const then of afterwards.get(runner.manager) ?? []) then();
    return result;
  } catch (thrown) {
    const error = sqlState(thrown) === ABORTED ? await firstFailure(sentAhead(runner.manager), thrown) : thrown;
    if (isCommitting && isConnectionLost(error)) throw new OutcomeUnknown(error);
    if (runner.isTransactionActive) await runner.rollbackTransaction().catch(() => undefined);
    throw error;
  } finally {
    await runner.release().catch(() => undefined);
  }
}

const sent = new WeakMap<EntityManager, Promise<unknown>[]>();

const sentAhead = (tx: EntityManager): readonly Promise<unknown>[] => sent.get(tx) ?? [];

/**
 * What a transaction asks for and goes on without: its answer is waited for with the end. Where it fails, nothing is committed.
 */
export function goOnWithout(tx: EntityManager, asked: Promise<unknown>): void {
  asked.catch(() => undefined);
  sent.set(tx, [...sentAhead(tx), asked]);
}

const afterwards = new WeakMap<EntityManager, (() => void)[]>();

/** Does something once what the transaction wrote is there for good, and not at all otherwise. */
export function onceCommitted(tx: EntityManager, then: () => void): void {
  afterwards.set(tx, [...(afterwards.get(tx) ?? []), then]);
}

/** What failed of what was sent ahead is why what was asked behind it did. */
async function firstFailure(asked: readonly Promise<unknown>[], thrown: unknown): Promise<unknown> {
  for (const one of asked) {
    const failure = await one.then(
      () => null,
      (error: unknown) => ({ error }),
    );
    if (failure) return failure.error;
  }
  return thrown;
}

/** Reads on one connection, without a transaction, so that what is asked at once goes together. */
export async function onOneConnection<T>(source: DataSource, work: Work<T>): Promise<T> {
  const runner = source.createQueryRunner();
  try {
    return await work(runner.manager);
  } finally {
    await runner.release();
  }
}

/** One transaction, begun again a few times where the database gave it up for another one's sake. */
export async function retried<T>(source: DataSource, work: Work<T>, isolation?: Isolation): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await oneTransaction(source, work, isolation);
    } catch (error) {
      if (tries >= MOST_TRIES || !isGivenUp(error)) throw error;
      await sleep(PAUSE_MS * tries * Math.random());
    }
  }
}

const isGivenUp = (error: unknown): boolean => [DEADLOCK, SERIALIZATION].includes(sqlState(error) ?? '');

let waiting = 0;

/**
 * A command: it waits for what others hold, though not on a connection, so that whoever waits keeps nobody else from
 * working. Its pool gives a lock up at once; the command lets go of everything, and begins again a little later.
 */
export async function patiently<T>(source: DataSource, work: Work<T>): Promise<T> {
  const deadline = performance.now() + LOCK_PATIENCE_MS;
  for (;;) {
    try {
      return await retried(source, work);
    } catch (error) {
      if (!isLockTimeout(error) || performance.now() > deadline) throw error;
      await pause();
    }
  }
}

async function pause(): Promise<void> {
  if (waiting >= MOST_WAITING) throw new Problem(503, 'Too many people are waiting. Try again in a moment.', {}, 2);
  waiting++;
  await sleep(PAUSE_MS * (0.5 + Math.random()));
  waiting--;
}
