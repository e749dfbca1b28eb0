import { workerData } from 'node:worker_threads';
import type { DataSource } from 'typeorm';
import { createDataSource } from './db/dataSource.ts';
import { createLog } from './log.ts';
import { runWork, type WorkPlace } from './longWork/runWork.ts';
import type { ThreadConfig, ThreadTask } from './longWork/workThreads.ts';
import { workKinds } from './workKinds.ts';

/* A thread that does long work, with connections of its own. */

const { databaseUrl, logLevel } = workerData as ThreadConfig;
const log = createLog(logLevel);
const connect = (): Promise<DataSource> => createDataSource(databaseUrl, 1).initialize();

let place: WorkPlace | null = null;

export default async ({ id, now }: ThreadTask): Promise<void> => {
  // Connected with the first work, so that a thread outlives a database that is not there yet.
  place ??= { work: await connect(), telling: await connect(), apart: await connect(), kinds: workKinds, log };
  await runWork(place, id, now);
};
