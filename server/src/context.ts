import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import type { Clock } from './clock.ts';
import { patiently, retried, type Work } from './db/transactions.ts';
import type { DesignChecks } from './designCheck/designChecks.ts';
import type { Mailer } from './messages/mailer.ts';
import type { PreviewEffect, Previewed } from './processes/previewEffect.ts';

/** Connections to the database, apart by what they are for, so that no kind of work keeps another from it. */
export interface Pools {
  /** Reading, and what is changed without waiting for anyone. */
  readonly dataSource: DataSource;
  /** Commands that may have to wait for what others hold. */
  readonly commands: DataSource;
  /** What adds up the open deals of a process, or what was done with them: it takes its turn, and no page of one deal waits for it. */
  readonly reports: DataSource;
  /** What reads a whole book, or takes in a whole file. */
  readonly longWork: DataSource;
}

/** What every use case is given: the database, the clock, the log, and the queue that wakes background work. */
export interface Context extends Pools {
  readonly clock: Clock;
  readonly log: Logger;
  readonly version: string;
  /** Whether the server is reached from this machine only. */
  readonly reach: 'loopback' | 'network';
  /** A session ends when it was not used for so long. */
  readonly sessionIdleMs: number;
  /** No document may be larger. */
  readonly documentMostBytes: number;
  /** Hands messages over. */
  readonly mailer: Mailer;
  readonly designChecks: DesignChecks;
  /** What a publish would do to the open deals, worked out in a thread. */
  readonly previewEffect: (previewed: Previewed) => Promise<PreviewEffect>;
  /** Lets a long work that was written down begin. */
  readonly wake: (work: string) => Promise<void>;
  /** Until this server has no such work in hand, or so many milliseconds. */
  readonly outOfHand: (work: string, mostMs: number) => Promise<void>;
}

/** One transaction for one use case that reads. */
export const inTransaction = <T>(context: Pools, work: Work<T>): Promise<T> => retried(context.dataSource, work);

/** The same for one that adds up. */
export const inReport = <T>(context: Pools, work: Work<T>): Promise<T> => retried(context.reports, work);

/** Where a process's open deals are added up: few take no turn of reports. */
export const addsUpOn = ({ dataSource, reports }: Pools, { few }: { readonly few: boolean }): DataSource =>
  few ? dataSource : reports;

/** One transaction that sees the database as it was at one instant, however long it reads. */
export const inSnapshot = <T>(context: Pools, work: Work<T>): Promise<T> =>
  retried(context.longWork, work, 'REPEATABLE READ');

/** One transaction for a command. `work` may be done again from its beginning, so it keeps nothing outside. */
export const inCommand = <T>(context: Pools, work: Work<T>): Promise<T> => patiently(context.commands, work);

/** One transaction that takes its time. */
export const inLongWork = <T>(context: Pools, work: Work<T>): Promise<T> => retried(context.longWork, work);
