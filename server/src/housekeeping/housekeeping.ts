import type { Context } from '../context.ts';
import { makeCheckpoint } from '../journal/checkpoint.ts';
import { throwAway } from './repository.ts';

/** Throws away what has had its time. */
export async function keepHouse(context: Context): Promise<void> {
  await throwAway(context.dataSource, context.clock.now());
}

/** The same, and a checkpoint of the journal. */
export async function keepHouseAndJournal(context: Context): Promise<void> {
  await keepHouse(context);
  await makeCheckpoint(context);
}
