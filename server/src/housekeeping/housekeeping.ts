import { type Context, inLongWork } from '../context.ts';
import { foldSums } from '../deals/repository/foldSums.ts';
import { makeCheckpoint } from '../journal/checkpoint.ts';
import { throwAway } from './repository.ts';

/** Throws away what has had its time, and folds sums that have grown long. */
export async function keepHouse(context: Context): Promise<void> {
  const now = context.clock.now();
  await throwAway(context.dataSource, now);
  await inLongWork(context, (tx) => foldSums(tx, now));
}

/** The same, and a checkpoint of the journal. */
export async function keepHouseAndJournal(context: Context): Promise<void> {
  await keepHouse(context);
  await makeCheckpoint(context);
}
