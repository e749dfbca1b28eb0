import type pg from 'pg';

/*
 * A book at any size in minutes: every deal of a lived one again and again under ids of its own, each time with all of its
 * history, which is as consistent as what was lived. The journal's chain is worked out anew, for it names the deal.
 */

const HISTORY = ['visits', 'moves', 'refusals', 'deal_states', 'findings', 'ticks', 'step_runs', 'tasks', 'waivers'];

/** How often deals are copied that are open, and those that are not. */
export interface Copies {
  readonly open: number;
  readonly others: number;
}

/** Copies each deal so many times. Needs a connection of the role that owns the tables; nobody else may be writing. */
export async function growBook(client: pg.Client, { open, others }: Copies): Promise<void> {
  await client.query('begin');
  // What is copied was checked when it was lived; neither it nor the chain is looked at again row by row, nor taken for new
  // by checkpoints.
  await client.query('set local session_replication_role = replica');
  await client.query(COPY_ID);
  await client.query(
    `create temp table grown on commit drop as select id as old_id, pg_temp.copy_id(id, n) as new_id, n
     from deals, generate_series(1, case when status = 'open' then $1::int else $2::int end) n`,
    [open, others],
  );
  await client.query('create index on grown (old_id); analyze grown');
  await copy(client, 'deals', 'id', {
    id: 'g.new_id',
    name: "t.name || ' ' || g.n",
    name_fold: "t.name_fold || ' ' || g.n",
    external_id: 'null',
    import_id: 'null',
  });
  await copy(client, 'deal_heads', 'deal_id', {
    deal_id: 'g.new_id',
    journal_count: '0',
    journal_hash: "''::bytea",
    checked_count: '0',
  });
  for (const table of HISTORY) await copy(client, table, 'deal_id', { deal_id: 'g.new_id' });
  await copy(client, 'activities', 'deal_id', { deal_id: 'g.new_id', id: 'pg_temp.copy_id(t.id, g.n)' });
  await copy(client, 'journal_texts', 'deal_id', { deal_id: 'g.new_id', id: 'pg_temp.copy_id(t.id, g.n)' });
  await copyJournal(client);
  await client.query('commit');
  await client.query('vacuum analyze');
}

/* The instant in front stays, and what is random in an id is drawn from the old id and the number of the copy. */
const COPY_ID = `
create function pg_temp.copy_id(old uuid, n int) returns uuid language sql immutable strict as $$
  select (left(old::text, 15) || substr(h, 1, 3) || '-a' || substr(h, 4, 3) || '-' || substr(h, 7, 12))::uuid from md5(old::text || n) h
$$`;

/** Copies the rows of the deals that are grown, with some columns said otherwise. */
async function copy(
  client: pg.Client,
  table: string,
  ofDeal: string,
  otherwise: Readonly<Record<string, string>>,
): Promise<void> {
  const { rows } = await client.query<{ name: string }>(
    `select attname as name from pg_attribute where attrelid = $1::regclass and attnum > 0 and not attisdropped and attidentity = '' order by attnum`,
    [table],
  );
  const names = rows.map(({ name }) => name);
  await client.query(
    `insert into ${table} (${names.map((name) => `"${name}"`).join(', ')})
     select ${names.map((name) => otherwise[name] ?? `t."${name}"`).join(', ')} from grown g join ${table} t on t.${ofDeal} = g.old_id`,
  );
}

/** Entry by entry for all deals at once, as the trigger would chain them one by one. */
async function copyJournal(client: pg.Client): Promise<void> {
  const { rows } = await client.query<{ longest: number }>('select max(seq) as longest from journal');
  await client.query(
    'create temp table chains on commit drop as select g.old_id, g.new_id, g.n, $$$$::bytea as hash, 0 as seq from grown g',
  );
  await client.query('create index on chains (old_id); analyze chains');
  for (let seq = 1; seq <= (rows[0]?.longest ?? 0); seq++)
    await client.query(
      `with entries as (
         select c.new_id, j.kind, j.stage_id, j.happened_at, j.recorded_at, j.by_id, j.by_actor, j.body, pg_temp.copy_id(j.text_id, c.n) as text_id, c.hash as previous,
           j.text_digest, journal_hash(c.hash, c.new_id, $1, j.kind, j.stage_id, j.happened_at, j.recorded_at, coalesce(j.by_actor, j.by_id::text), j.body, j.text_digest) as hash
         from chains c join journal j on j.deal_id = c.old_id and j.seq = $1
       ), written as (
         insert into journal (deal_id, seq, kind, stage_id, happened_at, recorded_at, by_id, by_actor, body, text_id, text_digest, previous_hash, hash)
         select new_id, $1, kind, stage_id, happened_at, recorded_at, by_id, by_actor, body, text_id, text_digest, previous, hash from entries
       )
       update chains c set hash = e.hash, seq = $1 from entries e where e.new_id = c.new_id`,
      [seq],
    );
  await client.query(
    'update deal_heads h set journal_count = c.seq, journal_hash = c.hash, checked_count = c.seq from chains c where c.new_id = h.deal_id',
  );
}
