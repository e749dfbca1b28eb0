import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import type { Problem } from '@ladder/core';
import { Piscina } from 'piscina';
import type { CheckTask, RemarkCounts } from './checkThread.ts';
import type { DesignInput } from './designInput.ts';

/** Checks designs in a thread of its own, begun when it is first needed. */
export interface DesignChecks {
  /** What keeps the design from being published. */
  readonly problems: (design: DesignInput) => Promise<readonly Problem[]>;
  /** How much the check has to say; of a design that was counted before it is known. */
  readonly counts: (design: DesignInput) => Promise<RemarkCounts>;
  readonly stop: () => Promise<void>;
}

const MOST_KEPT = 1_000;
const IDLE_MS = 60_000;

export function startDesignChecks(): DesignChecks {
  const threads = new Piscina<CheckTask, readonly Problem[] | RemarkCounts>({
    filename: fileURLToPath(new URL('./checkThread.ts', import.meta.url)),
    execArgv: ['--import', 'tsx'],
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE_MS,
  });
  const counted = new Map<string, Promise<RemarkCounts>>();
  const count = (design: DesignInput): Promise<RemarkCounts> =>
    threads.run({ what: 'counts', design }) as Promise<RemarkCounts>;
  return {
    problems: (design) => threads.run({ what: 'problems', design }) as Promise<readonly Problem[]>,
    counts: (design) => {
      const key = createHash('sha256').update(JSON.stringify(design)).digest('base64');
      const known = counted.get(key) ?? count(design);
      if (counted.size >= MOST_KEPT) counted.clear();
      counted.set(key, known);
      known.catch(() => counted.delete(key));
      return known;
    },
    stop: () => threads.destroy(),
  };
}
