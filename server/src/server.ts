import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import PgBoss from 'pg-boss';
import { type Logger, pino } from 'pino';
import { createApp } from './app.ts';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import type { Context } from './context.ts';
import { startImportWorker } from './data/worker.ts';
import { createDataSource } from './db/dataSource.ts';
import { JOBS_SCHEMA } from './db/queues.ts';

export interface RunningServer {
  readonly context: Context;
  readonly url: string;
  /** Finishes the requests in hand, then lets go of the database. */
  readonly stop: () => Promise<void>;
}

const VERSION = '0.1.0';
const LOOPBACK = ['127.0.0.1', '::1', 'localhost'];

/** Starts the server with a clock. Everything that runs behind requests starts and ends with it. */
export async function startServer(config: Config, clock: Clock): Promise<RunningServer> {
  const log = pino({ level: config.logLevel });
  const dataSource = await createDataSource(config.databaseUrl).initialize();
  const boss = await startQueue(config, log);
  const context: Context = {
    dataSource,
    clock,
    log,
    version: VERSION,
    reach: LOOPBACK.includes(config.host) ? 'loopback' : 'network',
    wake: async (queue, data) => {
      await boss.send(queue, data);
    },
  };
  await startImportWorker(context, boss);
  const http = createServer(createApp(context, config.webRoot));
  const url = await listen(http, config);
  const stop = async (): Promise<void> => {
    await close(http);
    await boss.stop({ graceful: true, wait: true, timeout: 10_000 });
    await dataSource.destroy();
  };
  return { context, url, stop };
}

async function startQueue(config: Config, log: Logger): Promise<PgBoss> {
  const boss = new PgBoss({
    connectionString: config.databaseUrl,
    schema: JOBS_SCHEMA,
    migrate: false,
    schedule: false,
    max: 3,
  });
  boss.on('error', (error) => log.error({ err: error }, 'job queue'));
  await boss.start();
  return boss;
}

function listen(http: Server, { port, host }: Config): Promise<string> {
  return new Promise((resolve, reject) => {
    http.once('error', reject);
    http.listen(port, host, () => resolve(`http://${host}:${(http.address() as AddressInfo).port}`));
  });
}

function close(http: Server): Promise<void> {
  return new Promise((resolve) => {
    http.close(() => resolve());
    http.closeIdleConnections();
  });
}
