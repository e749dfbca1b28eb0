import type { Logger } from 'pino';
import type { DataSource, EntityManager } from 'typeorm';
import type { Clock } from './clock.ts';

/** What every use case is given: the database, the clock, the log, and the queue that wakes background work. */
export interface Context {
  readonly dataSource: DataSource;
  readonly clock: Clock;
  readonly log: Logger;
  readonly version: string;
  /** Whether the server is reached from this machine only. */
  readonly reach: 'loopback' | 'network';
  readonly wake: (queue: string, data: object) => Promise<void>;
}

/** One transaction for one use case. */
export const inTransaction = <T>(context: Context, work: (tx: EntityManager) => Promise<T>): Promise<T> =>
  context.dataSource.transaction(work);
