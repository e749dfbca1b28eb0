import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { at, type Connection, sql } from '../db/sql.ts';
import { type CheckedHead, checkpointDigest } from './entryHash.ts';

export interface Checkpoint {
  readonly number: number;
  /** In hex. */
  readonly digest: string;
}

/** So many heads a checkpoint takes at most; the next takes the others. */
const MOST_HEADS = 20_000;

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
  const [lock] = await sql<{ taken: boolean }>(
    tx,
    `select pg_try_advisory_xact_lock(hashtextextended('journal checkpoint', 0)) as taken`,
  );
  const heads = lock?.taken ? await takeHeads(tx) : [];
  if (heads.length === 0) return null;
  const last = await lastCheckpoint(tx);
  const [number, previous] = [(last?.number ?? 0) + 1, last?.digest ?? ''];
  const digest = checkpointDigest(previous, number, heads);
  await sql(
    tx,
    `insert into journal_checkpoints (number, at, entries, previous, digest)
     values (:number, :now, coalesce((select entries from journal_checkpoints where number = :number - 1), 0) + :fresh, decode(:previous, 'hex'), decode(:digest, 'hex'))`,
    { number, now: at(now), previous, digest, fresh: heads.reduce((sum, { fresh }) => sum + fresh, 0) },
  );
  await sql(
    tx,
    `insert into journal_checkpoint_heads (number, deal_id, journal_count, journal_hash)
     select :number, deal, count, decode(hash, 'hex') from jsonb_to_recordset(:heads) as r(deal uuid, count integer, hash text)`,
    { number, heads },
  );
  return { number, digest };
}

/** The heads with entries since they were last checked, in order of their deals, marked as checked. */
async function takeHeads(tx: EntityManager): Promise<readonly (CheckedHead & { readonly fresh: number })[]> {
  const rows = await sql<CheckedHead & { fresh: number }>(
    tx,
    `with unchecked as (
       select deal_id, journal_count - checked_count as fresh from deal_heads where journal_count <> checked_count order by deal_id limit :most for update skip locked
     )
     update deal_heads h set checked_count = h.journal_count from unchecked u where h.deal_id = u.deal_id
     returning h.deal_id as deal, h.journal_count as count, encode(h.journal_hash, 'hex') as hash, u.fresh`,
    { most: MOST_HEADS },
  );
  return rows.toSorted((a, b) => (a.deal < b.deal ? -1 : 1));
}

/** The newest checkpoint; null where there is none yet. */
export async function lastCheckpoint(connection: Connection): Promise<Checkpoint | null> {
  const [row] = await sql<Checkpoint>(
    connection,
    `select number, encode(digest, 'hex') as digest from journal_checkpoints order by number desc limit 1`,
  );
  return row ?? null;
}
