import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { availableParallelism } from 'node:os';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import { createApp } from './app.ts';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import type { Context, Pools } from './context.ts';
import { createDataSource } from './db/dataSource.ts';
import { keepTogether } from './db/keptBySource.ts';
import { JOBS_SCHEMA } from './db/queues.ts';
import { designChecksBy } from './designCheck/designChecks.ts';
import { doDueWork } from './dueWork/doDueWork.ts';
import { every } from './every.ts';
import { keepHouseAndJournal } from './housekeeping/housekeeping.ts';
import { Closing } from './http/closing.ts';
import { expressMessages } from './http/expressMessages.ts';
import { createLog } from './log.ts';
import { startWorkThreads } from './longWork/workThreads.ts';
import { doMessages } from './messages/doMessages.ts';
import { mailerOf } from './messages/mailer.ts';
import { previewsBy } from './processes/previewsBy.ts';
import { hearOfSettings } from './setting/settingNews.ts';
import { startThreads, type Threads } from './threads.ts';

export interface RunningServer {
  readonly context: Context;
  readonly url: string;
  /** Finishes the requests in hand, then lets go of the database. */
  readonly stop: () => Promise<void>;
}

const VERSION = '0.1.0';
const LOOPBACK = ['127.0.0.1', '::1', 'localhost'];
/** What is due is looked for so often. */
const LOOKED_FOR_MS = 5_000;
const HOUSE_KEPT_MS = 10 * 60_000;
/** Each keeps a processor busy as long as it takes: were there more, everyone else would wait for a turn. */
const reportsAtOnce = (): number => Math.min(8, Math.max(2, availableParallelism()));
const POOL_SIZES = { reading: 10, commands: 8, reports: reportsAtOnce(), longWork: 3 };
/** A command lets go of its connection and waits without one where a lock is not to be had at once. */
const COMMAND_LOCK_MS = 50;

/** Starts the server with a clock. Everything that runs behind requests starts and ends with it, but for threads that it shares. */
export async function startServer(config: Config, clock: Clock, shared?: Threads): Promise<RunningServer> {
  const log = createLog(config.logLevel);
  const pools = await openPools(config.databaseUrl);
  const boss = await startQueue(config, log);
  const threads = shared ?? startThreads(1);
  const longWork = await startWorkThreads({
    config,
    clock,
    log,
    connection: pools.dataSource,
    boss,
    threads: threads.work,
  });
  const context: Context = {
    ...pools,
    clock,
    log,
    version: VERSION,
    reach: LOOPBACK.includes(config.host) ? 'loopback' : 'network',
    sessionIdleMs: config.sessionIdleMs,
    documentMostBytes: config.documentMostBytes,
    mailer: mailerOf(config.mail, pools.dataSource),
    wake: longWork.wake,
    outOfHand: longWork.outOfHand,
    designChecks: designChecksBy(threads.checks),
    previewEffect: previewsBy(threads.work, config),
  };
  const settingNews = hearOfSettings(context, config.databaseUrl);
  const housekeeping = every(context, HOUSE_KEPT_MS, 'housekeeping', keepHouseAndJournal);
  const dueWork = every(context, LOOKED_FOR_MS, 'looking for due work', doDueWork);
  const messages = every(context, LOOKED_FOR_MS, 'handing messages over', doMessages);
  const closing = new Closing();
  const app = createApp(context, config, closing);
  const http = createServer(expressMessages(app), app);
  http.keepAliveTimeout = KEEP_ALIVE_MS;
  const url = await listen(http, config);
  const stop = async (): Promise<void> => {
    await closing.close(http);
    await settingNews.stop();
    await housekeeping.stop();
    await dueWork.stop();
    await messages.stop();
    await longWork.stop();
    if (!shared) await threads.stop();
    await Promise.all(Object.values(pools).map((pool) => pool.destroy()));
  };
  return { context, url, stop };
}

async function openPools(url: string): Promise<Pools> {
  const [dataSource, commands, reports, longWork] = await Promise.all([
    createDataSource(url, POOL_SIZES.reading).initialize(),
    createDataSource(url, POOL_SIZES.commands, COMMAND_LOCK_MS).initialize(),
    createDataSource(url, POOL_SIZES.reports).initialize(),
    createDataSource(url, POOL_SIZES.longWork).initialize(),
  ]);
  keepTogether([dataSource, commands, reports, longWork]);
  return { dataSource, commands, reports, longWork };
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

/** Longer than proxies and browsers keep a connection that is idle: else one is closed as the next request comes over it. */
const KEEP_ALIVE_MS = 75_000;

function listen(http: Server, { port, host }: Config): Promise<string> {
  return new Promise((resolve, reject) => {
    http.once('error', reject);
    http.listen(port, host, () => resolve(`http://${host}:${(http.address() as AddressInfo).port}`));
  });
}
