import { setTimeout as sleep } from 'node:timers/promises';
import type PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Clock } from '../clock.ts';
import type { Config } from '../config.ts';
import { isConnectionLost } from '../db/failures.ts';
import { WORK_QUEUE } from '../db/queues.ts';
import type { Connection } from '../db/sql.ts';
import { MOST_WORK_THREADS, type Threads } from '../threads.ts';
import { unfinishedWork } from './repository.ts';

/** What a thread is told of a work, and of where it is. */
export interface ThreadTask extends Pick<Config, 'databaseUrl' | 'logLevel'> {
  readonly id: string;
  readonly now: number;
}

const POLL_SECONDS = 0.5;
const RECOVERY_MS = 5_000;

interface Surroundings {
  readonly config: Config;
  readonly clock: Clock;
  readonly log: Logger;
  readonly connection: Connection;
  readonly boss: PgBoss;
  readonly threads: Threads['work'];
}

export interface WorkThreads {
  /** Lets a work that was written down begin. */
  readonly wake: (id: string) => Promise<void>;
  /** Until none of the threads has it in hand, or so many milliseconds. */
  readonly outOfHand: (id: string, mostMs: number) => Promise<void>;
  readonly stop: () => Promise<void>;
}

/**
 * Does long work in threads of its own, so that other answers do not wait. The queue brings each work at once; besides, it
 * is looked now and again for work that a server which is gone left unfinished, or that was cut off with the database. Each
 * work is held by a lock in the database, so that however many servers look, one does it.
 */
export async function startWorkThreads(surroundings: Surroundings): Promise<WorkThreads> {
  const { config, clock, log, connection, boss, threads } = surroundings;
  const { databaseUrl, logLevel } = config;
  const over = new AbortController();
  const inHand = new Map<string, Promise<void>>();
  const begin = async (task: ThreadTask): Promise<void> => void (await threads.run(task, { signal: over.signal }));
  const work = (id: string): Promise<void> => {
    const task = { id, now: clock.now(), databaseUrl, logLevel };
    const running = inHand.get(id) ?? begin(task).finally(() => inHand.delete(id));
    inHand.set(id, running);
    return running;
  };
  const workers = await Promise.all(
    Array.from({ length: MOST_WORK_THREADS }, () =>
      boss.work<{ id: string }>(WORK_QUEUE, { batchSize: 1, pollingIntervalSeconds: POLL_SECONDS }, async (jobs) => {
        for (const { data } of jobs) await work(data.id);
      }),
    ),
  );
  const recovery = repeat(RECOVERY_MS, () => recover(connection, log, work));
  return {
    wake: async (id) => {
      // It stands written down: where the queue does not take it, it is found as unfinished.
      await boss.send(WORK_QUEUE, { id }).catch((error) => log.warn({ err: error }, 'the queue took no work'));
      for (const worker of workers) boss.notifyWorker(worker);
    },
    outOfHand: async (id, mostMs) => {
      const waited = new AbortController();
      const waiting = sleep(mostMs, undefined, { signal: waited.signal }).catch(() => undefined);
      const running = inHand.get(id)?.catch(() => undefined);
      await (running ? Promise.race([waiting, running]) : waiting);
      waited.abort();
    },
    stop: async () => {
      const recovered = recovery.stop();
      await boss.stop({ graceful: true, wait: true, timeout: 10_000 });
      // Whatever is still in hand ends with its thread; it is found again as unfinished.
      over.abort();
      await recovered;
    },
  };
}

/** Begins again what stands as running and is in nobody's hands. */
async function recover(connection: Connection, log: Logger, work: (id: string) => Promise<void>): Promise<void> {
  try {
    for (const id of await unfinishedWork(connection)) await work(id);
  } catch (error) {
    if (!isConnectionLost(error)) log.warn({ err: error }, 'looking for unfinished work did not come to its end');
  }
}

/** Does something at once and then every so often, never twice at a time, until it is stopped. */
function repeat(everyMs: number, work: () => Promise<void>): { readonly stop: () => Promise<void> } {
  let last: Promise<void> | null = null;
  const once = (): void => {
    last ??= work().finally(() => {
      last = null;
    });
  };
  once();
  const timer = setInterval(once, everyMs);
  timer.unref();
  return {
    stop: async () => {
      clearInterval(timer);
      await last;
    },
  };
}
