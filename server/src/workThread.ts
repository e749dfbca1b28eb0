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
const connect = (connections = 1): Promise<DataSource> => createDataSource(databaseUrl, connections).initialize();

const connectAll = async (): Promise<WorkPlace> => ({
  work: await connect(),
  telling: await connect(),
  apart: await connect(2),
  kinds: workKinds,
  log,
});

// Connected before there is work, so that none waits for it; where the database is not there yet, with the first work.
let place = connectAll();
place.catch(() => undefined);

export default async ({ id, now }: ThreadTask): Promise<void> => {
  place = place.catch(connectAll);
  await runWork(await place, id, now);
};
