import { createHash } from 'node:crypto';
import type { Problem } from '@ladder/core';
import type { Threads } from '../threads.ts';
import type { RemarkCounts } from './checkThread.ts';
import type { DesignInput } from './designInput.ts';

/** Checks designs in a thread of its own; of a design that was checked before it is known. */
export interface DesignChecks {
  /** What keeps the design from being published. */
  readonly problems: (design: DesignInput) => Promise<readonly Problem[]>;
  /** How much the check has to say. */
  readonly counts: (design: DesignInput) => Promise<RemarkCounts>;
}

export function designChecksBy(threads: Threads['checks']): DesignChecks {
  return {
    problems: remembered(100, (design) => threads.run({ what: 'problems', design }) as Promise<readonly Problem[]>),
    counts: remembered(1_000, (design) => threads.run({ what: 'counts', design }) as Promise<RemarkCounts>),
  };
}

/** Asks once of each design, and keeps what was answered of as many. */
function remembered<Answer>(
  most: number,
  ask: (design: DesignInput) => Promise<Answer>,
): (design: DesignInput) => Promise<Answer> {
  const answered = new Map<string, Promise<Answer>>();
  return (design) => {
    const key = createHash('sha256').update(JSON.stringify(design)).digest('base64');
    const known = answered.get(key) ?? ask(design);
    if (answered.size >= most) answered.clear();
    answered.set(key, known);
    known.catch(() => answered.delete(key));
    return known;
  };
}
