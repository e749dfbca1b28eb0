import type PgBoss from 'pg-boss';
import type { Context } from '../context.ts';
import { IMPORT_QUEUE } from '../db/queues.ts';
import { sql } from '../db/sql.ts';
import { runImport } from './run.ts';

const POLL_SECONDS = 0.5;

/** Runs imports behind requests; one that a killed server left unfinished begins again. */
export async function startImportWorker(context: Context, boss: PgBoss): Promise<void> {
  await boss.work<{ id: string }>(
    IMPORT_QUEUE,
    { batchSize: 1, pollingIntervalSeconds: POLL_SECONDS },
    async (jobs) => {
      for (const { data } of jobs) await runImport(context, data.id);
    },
  );
  const unfinished = await sql<{ id: string }>(context.dataSource, `select id from imports where state = 'running'`);
  for (const { id } of unfinished) await boss.send(IMPORT_QUEUE, { id });
}
