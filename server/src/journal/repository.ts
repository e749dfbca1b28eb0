import type { DealId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { pagesById } from '../db/pagesById.ts';
import { at, type Connection, sql } from '../db/sql.ts';
import type { CheckedHead, HashedEntry, HashedEvent } from './entryHash.ts';

export interface Checkpoint {
  readonly number: number;
  /** In hex. */
  readonly digest: string;
}

/** So many heads a checkpoint takes at most; the next takes the others. */
const MOST_HEADS = 20_000;

/** The heads with entries since they were last checked, in order of their deals, marked as checked. */
export async function takeHeads(tx: EntityManager): Promise<readonly (CheckedHead & { readonly fresh: number })[]> {
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

/** False where another server is just making one. */
export async function takeCheckpointLock(tx: EntityManager): Promise<boolean> {
  const [lock] = await sql<{ taken: boolean }>(
    tx,
    `select pg_try_advisory_xact_lock(hashtextextended('journal checkpoint', 0)) as taken`,
  );
  return lock?.taken ?? false;
}

export interface NewCheckpoint extends Checkpoint {
  readonly previous: string;
  readonly heads: readonly (CheckedHead & { readonly fresh: number })[];
}

export async function insertCheckpoint(
  tx: EntityManager,
  { heads, ...made }: NewCheckpoint,
  now: number,
): Promise<void> {
  await sql(
    tx,
    `insert into journal_checkpoints (number, at, entries, previous, digest)
     values (:number, :now, coalesce((select entries from journal_checkpoints where number = :number - 1), 0) + :fresh, decode(:previous, 'hex'), decode(:digest, 'hex'))`,
    { ...made, now: at(now), fresh: heads.reduce((sum, { fresh }) => sum + fresh, 0) },
  );
  await sql(
    tx,
    `insert into journal_checkpoint_heads (number, deal_id, journal_count, journal_hash)
     select :number, deal, count, decode(hash, 'hex') from jsonb_to_recordset(:heads) as r(deal uuid, count integer, hash text)`,
    { number: made.number, heads },
  );
}

export async function* readCheckpoints(
  connection: Connection,
): AsyncGenerator<Checkpoint & { readonly heads: readonly CheckedHead[] }> {
  for (let after = 0; ; ) {
    const [row] = await sql<Checkpoint & { heads: CheckedHead[] }>(
      connection,
      `select c.number, encode(c.digest, 'hex') as digest, (
         select coalesce(json_agg(json_build_object('deal', deal_id, 'count', journal_count, 'hash', encode(journal_hash, 'hex')) order by deal_id), '[]')
         from journal_checkpoint_heads h where h.number = c.number) as heads
       from journal_checkpoints c where c.number > :after order by c.number limit 1`,
      { after },
    );
    if (!row) return;
    yield row;
    after = row.number;
  }
}

export interface EntryRow extends HashedEntry {
  readonly id: string;
  readonly hash: string;
  readonly text: string | null;
  readonly salt: Buffer | null;
  readonly has_text: boolean;
  readonly erased: boolean;
}

export interface DealRow {
  readonly deal: DealId;
  /** What its head says; null where there is none. */
  readonly count: number | null;
  readonly hash: string | null;
  /** What the newest checkpoint that names it says. */
  readonly checked_count: number | null;
  readonly checked_hash: string | null;
}

const DEALS_AT_ONCE = 500;

/** Every deal that a head, an entry or a checkpoint names, in order, some at a time. */
export function readDeals(connection: Connection): AsyncGenerator<readonly DealRow[]> {
  const page = (after: string) =>
    sql<DealRow>(
      connection,
      `with named as (
         (select deal_id from deal_heads where deal_id > :after order by deal_id limit :most) union
         (select distinct deal_id from journal where deal_id > :after order by deal_id limit :most) union
         (select distinct deal_id from journal_checkpoint_heads where deal_id > :after order by deal_id limit :most)
       )
       select n.deal_id as deal, h.journal_count as count, encode(h.journal_hash, 'hex') as hash, c.journal_count as checked_count,
         encode(c.journal_hash, 'hex') as checked_hash
       from named n left join deal_heads h on h.deal_id = n.deal_id
       left join lateral (select journal_count, journal_hash from journal_checkpoint_heads where deal_id = n.deal_id order by number desc limit 1) c on true
       order by n.deal_id limit :most`,
      { after, most: DEALS_AT_ONCE },
    );
  return pagesById(page, ({ deal }) => deal);
}

export async function readEntries(
  connection: Connection,
  deals: readonly DealRow[],
): Promise<ReadonlyMap<string, readonly EntryRow[]>> {
  const rows = await sql<EntryRow>(
    connection,
    `select j.id::text, j.deal_id as deal, j.seq, j.kind, j.stage_id as stage, (extract(epoch from j.happened_at) * 1000000)::bigint::text as happened,
       (extract(epoch from j.recorded_at) * 1000000)::bigint::text as recorded, coalesce(j.by_actor, j.by_id::text) as by, j.body::text as body,
       encode(j.text_digest, 'hex') as digest, encode(j.hash, 'hex') as hash, t.text, t.salt, j.text_id is not null as has_text,
       exists (select from journal e where e.deal_id = j.deal_id and e.kind = 'text_erased' and (e.body->>'seq')::integer = j.seq) as erased
     from journal j left join journal_texts t on t.id = j.text_id
     where j.deal_id >= :from and j.deal_id <= :to order by j.deal_id, j.seq, j.id`,
    { from: deals[0]?.deal, to: deals.at(-1)?.deal },
  );
  const byDeal = new Map<string, EntryRow[]>();
  for (const row of rows) byDeal.set(row.deal, [...(byDeal.get(row.deal) ?? []), row]);
  return byDeal;
}

export interface EventRow extends HashedEvent {
  readonly hash: string;
  /** Of the newest event of its process: whether the version it published is the live one. */
  readonly is_live: boolean;
  readonly is_last: boolean;
}

/** Every event of processes, each process's in order: as many as there were publishes. */
export const readEvents = (connection: Connection): Promise<EventRow[]> =>
  sql<EventRow>(
    connection,
    `select e.process_id as process, e.seq, e.kind, (extract(epoch from e.happened_at) * 1000000)::bigint::text as happened,
       (extract(epoch from e.recorded_at) * 1000000)::bigint::text as recorded, coalesce(e.by_actor, e.by_id::text) as by, e.body::text as body,
       encode(e.hash, 'hex') as hash, e.body->>'version' = live.id::text as is_live,
       row_number() over (partition by e.process_id order by e.seq desc) = 1 as is_last
     from process_events e left join process_versions live on live.process_id = e.process_id and live.state = 'live' order by e.process_id, e.seq`,
  );
