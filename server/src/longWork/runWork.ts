import type { Logger } from 'pino';
import type { DataSource, EntityManager } from 'typeorm';
import { isConnectionLost, isLockTimeout, OutcomeUnknown } from '../db/failures.ts';
import { retried } from '../db/transactions.ts';
import { Problem } from '../problems/problem.ts';
import {
  dropBeginning,
  markBinding,
  markCancelled,
  markDone,
  markFailed,
  noteBeginning,
  reportProgress,
  type TakenWork,
  takeWork,
} from './repository.ts';
import type { WorkKind } from './workKind.ts';

/** What a long work is done with. */
export interface WorkPlace {
  /** Where its one transaction goes. */
  readonly work: DataSource;
  /** Where it tells how far it is, beside that transaction. */
  readonly telling: DataSource;
  /** Where its steps go that are transactions of their own. */
  readonly apart: DataSource;
  readonly kinds: readonly WorkKind<never, never>[];
  readonly log: Logger;
}

class Cancelled extends Error {}

/** So often a work is begun again that never came to an end, for its thread or server ended first. */
const MOST_BEGINNINGS = 5;
const GIVEN_UP =
  'This was begun several times, and each time the server ended before it was done. Nothing was changed.';

/**
 * Does a work in one transaction, or in steps, unless it is over or in other hands. What goes wrong leaves nothing of the
 * transaction behind but the reason; where the database went away, or what it needs is held too long, it stays to be begun again.
 */
export async function runWork(place: WorkPlace, id: string, now: number): Promise<void> {
  const began = performance.now();
  const ended = (): number => now + Math.round(performance.now() - began);
  // Counted once, however often the database gives the transaction up for another one's sake.
  let isCounted = false;
  const count = async (): Promise<void> => {
    if (!isCounted && !(await noteBeginning(place.telling, id, MOST_BEGINNINGS))) throw new Problem(500, GIVEN_UP);
    isCounted = true;
  };
  try {
    await retried(place.work, async (tx) => {
      const taken = await takeWork(tx, id);
      if (!taken) return;
      await count();
      await doWork(place, tx, id, taken, now, ended);
    });
  } catch (error) {
    if (isLockTimeout(error)) return void (await dropBeginning(place.telling, id));
    if (isConnectionLost(error) || error instanceof OutcomeUnknown) return;
    if (error instanceof Cancelled) await markCancelled(place.telling, id, ended());
    else await markFailed(place.telling, id, toProblem(place.log, error, id), ended());
  }
}

async function doWork(
  { kinds, telling, apart }: WorkPlace,
  tx: EntityManager,
  id: string,
  { kind, cancelAsked, ...work }: TakenWork,
  now: number,
  ended: () => number,
): Promise<void> {
  const found = kinds.find((candidate) => candidate.kind === kind);
  if (!found) throw new Error(`There is no kind of work ${kind}`);
  if (cancelAsked) throw new Cancelled();
  const progress = async (done: number, total?: number): Promise<void> => {
    if (!(await reportProgress(telling, id, done, total))) throw new Cancelled();
  };
  // A work's request and subject are what its own kind began it with.
  const deals = await found.run(tx, {
    ...work,
    request: work.request as never,
    subject: work.subject as never,
    id,
    now,
    progress,
    apart: (step) => retried(apart, step),
    bind: async (step) => {
      if (!(await markBinding(step, id))) throw new Cancelled();
    },
  });
  if (!(await markDone(tx, id, deals, ended()))) throw new Cancelled();
}

function toProblem(log: Logger, error: unknown, id: string): Problem {
  if (error instanceof Problem) return error;
  log.error({ err: error, work: id }, 'long work failed');
  return new Problem(500, 'The error was written to the server’s log. Nothing was changed.');
}
