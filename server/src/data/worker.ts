import type PgBoss from 'pg-boss';
import type { Context } from '../context.ts';
import { isConnectionLost } from '../db/failures.ts';
import { IMPORT_QUEUE } from '../db/queues.ts';
import { sql } from '../db/sql.ts';
import { runImport } from './run.ts';
import { runTakeBack } from './takeBack.ts';

const POLL_SECONDS = 0.5;
const RECOVERY_MS = 15_000;

/**
 * Runs imports, and takes them back, behind requests. The queue wakes it at once; besides it looks now and again for work
 * that a server which is gone left unfinished, or that was cut off with the database. One try holds a lock of its own in
 * the database, so that however many servers look, one works.
 */
export async function startImportWorker(
  context: Context,
  boss: PgBoss,
): Promise<{ readonly stop: () => Promise<void> }> {
  const work = async (id: string): Promise<void> => {
    await runImport(context, id);
    await runTakeBack(context, id);
  };
  await boss.work<{ id: string }>(
    IMPORT_QUEUE,
    { batchSize: 1, pollingIntervalSeconds: POLL_SECONDS },
    async (jobs) => {
      for (const { data } of jobs) await work(data.id);
    },
  );
  return repeat(RECOVERY_MS, () => recover(context, work));
}

/** Begins again what stands as being worked on and is not: whoever works on it holds its lock. */
async function recover(context: Context, work: (id: string) => Promise<void>): Promise<void> {
  try {
    const unfinished = await sql<{ id: string }>(
      context.dataSource,
      `select id from imports where state in ('running', 'taking_back') order by id limit 20`,
    );
    for (const { id } of unfinished) await work(id);
  } catch (error) {
    if (!isConnectionLost(error)) context.log.error({ err: error }, 'looking for unfinished imports failed');
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
