import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { checkpointDigest } from './entryHash.ts';
import { type Checkpoint, insertCheckpoint, lastCheckpoint, takeCheckpointLock, takeHeads } from './repository.ts';

/**
 * Makes a checkpoint of the heads that changed since the last one, if any did; gives it, or null. Heads that someone is
 * just writing are left for the next. One server at a time makes one.
 */
export async function makeCheckpoint(context: Context): Promise<Checkpoint | null> {
  const made = await inTransaction(context, (tx) => writeCheckpoint(tx, context.clock.now()));
  if (made) context.log.info({ checkpoint: made.number, digest: made.digest }, 'journal checkpoint');
  return made;
}

async function writeCheckpoint(tx: EntityManager, now: number): Promise<Checkpoint | null> {
  const heads = (await takeCheckpointLock(tx)) ? await takeHeads(tx) : [];
  if (heads.length === 0) return null;
  const last = await lastCheckpoint(tx);
  const [number, previous] = [(last?.number ?? 0) + 1, last?.digest ?? ''];
  const digest = checkpointDigest(previous, number, heads);
  await insertCheckpoint(tx, { number, previous, digest, heads }, now);
  return { number, digest };
}
