import { fileURLToPath } from 'node:url';
import type { Problem } from '@ladder/core';
import { Piscina } from 'piscina';
import type { Config } from './config.ts';
import type { CheckTask, RemarkCounts } from './designCheck/checkThread.ts';
import type { ThreadTask } from './longWork/workThreads.ts';
import type { PreviewEffect, Previewed } from './processes/previewEffect.ts';

/** What a thread is told of a preview, and of where it is. */
export interface PreviewTask extends Pick<Config, 'databaseUrl' | 'logLevel'> {
  readonly previewed: Previewed;
}

/** Threads beside that of the server. They know no more than each task tells them, so servers of one process may share them. */
export interface Threads {
  /** For long work, and for previews of publishes. */
  readonly work: Piscina<ThreadTask | PreviewTask, undefined | PreviewEffect>;
  /** For checks of designs. */
  readonly checks: Piscina<CheckTask, readonly Problem[] | RemarkCounts>;
  readonly stop: () => Promise<void>;
}

/** So many long works are done at a time. */
export const MOST_WORK_THREADS = 2;
/** And so many previews of publishes beside. */
const MOST_PREVIEWS = 1;
/** A thread that need not stand ready ends when it had nothing to do for so long. */
const IDLE_MS = 60_000;

/** Begins so many threads for long work at once, the others when they are first needed. */
export function startThreads(ready: number): Threads {
  const work = new Piscina<ThreadTask | PreviewTask, undefined | PreviewEffect>({
    ...codeOf('./workThread.ts'),
    minThreads: ready,
    maxThreads: MOST_WORK_THREADS + MOST_PREVIEWS,
    // A thread that has nothing to do still hears when its connections end.
    atomics: 'disabled',
  });
  const checks = new Piscina<CheckTask, readonly Problem[] | RemarkCounts>({
    ...codeOf('./designCheck/checkThread.ts'),
    minThreads: 0,
    maxThreads: 1,
  });
  return { work, checks, stop: async () => void (await Promise.all([work.destroy(), checks.destroy()])) };
}

const codeOf = (path: string) => ({
  filename: fileURLToPath(new URL(path, import.meta.url)),
  execArgv: ['--import', 'tsx'],
  idleTimeout: IDLE_MS,
});
