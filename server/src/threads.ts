import { fileURLToPath } from 'node:url';
import type { Problem } from '@ladder/core';
import { Piscina } from 'piscina';
import type { CheckTask, RemarkCounts } from './designCheck/checkThread.ts';
import type { ThreadTask } from './longWork/workThreads.ts';

/** Threads beside that of the server. They know no more than each task tells them, so servers of one process may share them. */
export interface Threads {
  /** For long work. */
  readonly work: Piscina<ThreadTask, void>;
  /** For checks of designs. */
  readonly checks: Piscina<CheckTask, readonly Problem[] | RemarkCounts>;
  readonly stop: () => Promise<void>;
}

/** So many long works are done at a time. */
export const MOST_WORK_THREADS = 2;
/** A thread that need not stand ready ends when it had nothing to do for so long. */
const IDLE_MS = 60_000;

/** Begins so many threads for long work at once, the others when they are first needed. */
export function startThreads(ready: number): Threads {
  const work = new Piscina<ThreadTask, void>({
    ...codeOf('./workThread.ts'),
    minThreads: ready,
    maxThreads: MOST_WORK_THREADS,
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
