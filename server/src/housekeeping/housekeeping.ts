import type { Context } from '../context.ts';
import { makeCheckpoint } from '../journal/checkpoint.ts';
import { throwAway } from './repository.ts';

const EVERY_MS = 10 * 60_000;

/** Throws away what has had its time. */
export async function keepHouse(context: Context): Promise<void> {
  const now = context.clock.now();
  await throwAway(context.dataSource, now);
}

/** Throws away what is old and makes a checkpoint of the journal, at the start and then now and again; what fails is tried again the next time. */
export function startHousekeeping(context: Context): { readonly stop: () => Promise<void> } {
  const run = (): Promise<void> =>
    keepHouse(context)
      .then(async () => void (await makeCheckpoint(context)))
      .catch((error) => context.log.warn({ err: error }, 'housekeeping did not come to its end'));
  let last = run();
  const timer = setInterval(() => {
    last = run();
  }, EVERY_MS);
  timer.unref();
  return {
    stop: async () => {
      clearInterval(timer);
      await last;
    },
  };
}
