import type { DealId, ProcessId, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { pagesById } from '../../db/pagesById.ts';
import { asArray, at, type Connection, sql } from '../../db/sql.ts';
import type { JudgedRows } from '../../deals/repository/judgedRows.ts';
import { ms } from '../../deals/repository/parts/columns.ts';

/*
 * What a publish brings deals, judged before its version is live (S38). It holds for a deal as long as nothing that the deal
 * is judged by was written since the judging began; all others are judged anew once the version is live.
 */

/**
 * Whether a row was written by a transaction that was not over when the judging for :version began; of a database that counts
 * its transactions anew, any was.
 */
const written = (row: string): string => `age(${row}.xmin) <= (
  select case when horizon::text::xid8 > pg_snapshot_xmax(pg_current_snapshot()) then 2147483647 else age(horizon::text::xid8::xid) end
  from publish_judgings where version_id = :version)`;

/** Begins to judge for a version; what was judged for it before is forgotten. */
export async function beginJudging(tx: EntityManager, version: VersionId, judgedAt: number): Promise<void> {
  await endJudging(tx, version);
  await sql(
    tx,
    `insert into publish_judgings (version_id, judged_at, horizon) values (:version, :judged, pg_snapshot_xmin(pg_current_snapshot())::text::bigint)`,
    { version, judged: at(judgedAt) },
  );
}

export const endJudging = (tx: EntityManager, version: VersionId): Promise<unknown> =>
  sql(tx, 'delete from publish_judgings where version_id = :version', { version });

/** The instant by which deals were judged for a version. */
export async function judgedAtOf(connection: Connection, version: VersionId): Promise<number | null> {
  const [row] = await sql<{ at: Date }>(
    connection,
    'select judged_at as at from publish_judgings where version_id = :version',
    { version },
  );
  return row?.at.getTime() ?? null;
}

/** What the publish brings a deal. */
export interface JudgedDeal {
  readonly deal: DealId;
  /** Up to when the clock alone changes nothing of it; infinite where it never does. */
  readonly goodUntil: number;
  /** Null where more than its findings and states would be written, or it may not hold any more. */
  readonly rows: JudgedRows | null;
}

export async function keepJudged(tx: EntityManager, version: VersionId, judged: readonly JudgedDeal[]): Promise<void> {
  if (judged.length === 0) return;
  const untils = judged.map(({ goodUntil }) => (Number.isFinite(goodUntil) ? at(goodUntil).toISOString() : 'infinity'));
  // Lists beside each other: the rows go into the table as they are, where PostgreSQL would take them apart as one JSON first.
  await sql(
    tx,
    `insert into judged_deals (version_id, deal_id, good_until, written)
     select :version, deal, good_until, nullif(written, 'null')::json from unnest(:ids::uuid[], :untils::timestamptz[], :rows::text[]) as r (deal, good_until, written)`,
    {
      version,
      ids: asArray(judged.map(({ deal }) => deal)),
      untils: asArray(untils),
      rows: asArray(judged.map(({ rows }) => JSON.stringify(rows))),
    },
  );
}

/** The limit keeps PostgreSQL from reading all deals to find those of a few heads. */
const open = (ids: string): string =>
  `cross join lateral (select d.id from deals d where ${ids} and d.process_id = :process and d.status = 'open' limit 1000000) d`;

/**
 * Marks the open deals to be judged anew that were written since the judging began, and gives the newest instant at which one
 * of them was. Asked by who keeps all others from writing.
 */
export async function markAnew(tx: EntityManager, process: ProcessId, version: VersionId): Promise<number> {
  const [row] = await sql<{ newest: number | null }>(
    tx,
    `with anew as (
       select d.id from deal_heads h ${open('d.id = h.deal_id')} where ${written('h')}
       union select d.id from customers c ${open('d.customer_id = c.id')} where ${written('c')}
       union select d.id from contacts c ${open('d.contact_id = c.id')} where ${written('c')}
     ), marked as (
       insert into judged_deals (version_id, deal_id) select :version, id from anew on conflict (version_id, deal_id) do update set written = null
     )
     select ${ms('max(h.settled_at)')} as newest from anew join deal_heads h on h.deal_id = anew.id`,
    { process, version },
  );
  return row?.newest ?? 0;
}

/** The newest instant after `now` at which any deal was changed; 0 where none was. */
export async function newestSince(tx: EntityManager, now: number): Promise<number> {
  const [row] = await sql<{ newest: number | null }>(
    tx,
    `select ${ms('max(settled_at)')} as newest from deal_heads where settled_at > :now`,
    { now: at(now) },
  );
  return row?.newest ?? 0;
}

/** Marks the same of open deals that stay on an older version, and takes over those that a publish left that was given up. */
export async function markLeft(tx: EntityManager, process: ProcessId, version: VersionId): Promise<void> {
  await sql(
    tx,
    `insert into judged_deals (version_id, deal_id)
     select :version::uuid, d.id from deals d where d.process_id = :process and d.status = 'open' and d.version_id is not null
     union select :version::uuid, t.deal_id from process_versions v join judged_deals t on t.version_id = v.id where v.process_id = :process and v.state = 'superseded'
     on conflict (version_id, deal_id) do update set written = null`,
    { process, version },
  );
  await sql(
    tx,
    `delete from publish_judgings j using process_versions v where v.id = j.version_id and v.process_id = :process and v.state = 'superseded'`,
    { process },
  );
}

/** Deals that are judged, or are to be judged anew, so many at a time. */
export function judgedBatches(
  connection: Connection,
  version: VersionId,
  which: 'judged' | 'anew',
  limit: number,
): AsyncGenerator<readonly { readonly id: DealId }[]> {
  const condition = which === 'judged' ? 'written is not null' : 'written is null';
  const page = (after: string) =>
    sql<{ id: DealId }>(
      connection,
      `select deal_id as id from judged_deals where version_id = :version and deal_id > :after and ${condition} order by deal_id limit :limit`,
      { version, after, limit },
    );
  return pagesById(page, ({ id }) => id);
}

/**
 * Takes out the rows of deals, which the caller has locked, that would have been judged alike at an instant: nothing was written
 * since, and the clock changed nothing. All others are to be judged anew.
 */
export async function takeJudged(
  tx: EntityManager,
  version: VersionId,
  ids: readonly DealId[],
  instant: number,
): Promise<readonly JudgedRows[]> {
  const taken = await sql<{ written: JudgedRows }>(
    tx,
    `with looked as (
       select t.deal_id, (j.judged_at = :instant or t.good_until > :instant)
         and not (${written('h')} or coalesce(${written('c')}, false) or coalesce(${written('o')}, false)) as holds
       from judged_deals t join publish_judgings j on j.version_id = t.version_id join deals d on d.id = t.deal_id
         join deal_heads h on h.deal_id = d.id left join customers c on c.id = d.customer_id left join contacts o on o.id = d.contact_id
       where t.version_id = :version and t.deal_id = any(:ids::uuid[])
     ), anew as (
       update judged_deals t set written = null from looked l where t.version_id = :version and t.deal_id = l.deal_id and not l.holds
     )
     delete from judged_deals t using looked l where t.version_id = :version and t.deal_id = l.deal_id and l.holds returning t.written`,
    { version, ids: asArray(ids), instant: at(instant) },
  );
  return taken.map((row) => row.written);
}

export const dropJudged = (tx: EntityManager, version: VersionId, ids: readonly DealId[]): Promise<unknown> =>
  sql(tx, 'delete from judged_deals where version_id = :version and deal_id = any(:ids::uuid[])', {
    version,
    ids: asArray(ids),
  });

/** How many deals the publish brings something, or may. */
export async function countJudged(connection: Connection, version: VersionId): Promise<number> {
  const [row] = await sql<{ deals: number }>(
    connection,
    'select count(*)::int as deals from judged_deals where version_id = :version',
    { version },
  );
  return row?.deals ?? 0;
}
