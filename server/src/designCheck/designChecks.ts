import { createHash } from 'node:crypto';
import type { Problem } from '@ladder/core';
import type { Threads } from '../threads.ts';
import type { RemarkCounts } from './checkThread.ts';
import type { DesignInput } from './designInput.ts';

/** Checks designs in a thread of its own. */
export interface DesignChecks {
  /** What keeps the design from being published. */
  readonly problems: (design: DesignInput) => Promise<readonly Problem[]>;
  /** How much the check has to say; of a design that was counted before it is known. */
  readonly counts: (design: DesignInput) => Promise<RemarkCounts>;
}

const MOST_KEPT = 1_000;

export function designChecksBy(threads: Threads['checks']): DesignChecks {
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
  };
}
