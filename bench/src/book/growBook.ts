import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';

/*
 * A book at any size in minutes: every deal of a lived one again and again under ids of its own, each time with all of its
 * history, which is as consistent as what was lived: said otherwise by one session, and written by COPY in another. The
 * journal's chain is worked out anew, for it names the deal.
 */

/** What has rows of a deal, and what is said otherwise in a copy, by column. */
const HISTORY: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  visits: {},
  moves: {},
  refusals: {},
  deal_states: {},
  dropped_results: {},
  findings: {},
  ticks: {},
  step_runs: {},
  tasks: {},
  waivers: {},
  activities: { id: 'pg_temp.copy_id(t.id, g.n)' },
  journal_texts: { id: 'pg_temp.copy_id(t.id, g.n)' },
};
const DEAL = {
  id: 'g.new_id',
  name: "t.name || ' ' || g.n",
  name_fold: "t.name_fold || ' ' || g.n",
  external_id: 'null',
  import_id: 'null',
};
/* All entries are written by then, and count as checked. */
const HEAD = {
  deal_id: 'g.new_id',
  journal_hash: '(select hash from journal where deal_id = g.new_id and seq = t.journal_count)',
  checked_count: 't.journal_count',
};
const TABLES = ['deals', 'deal_heads', 'journal', ...Object.keys(HISTORY)];

/** So many deals are copied at once: their journal is put in order within the memory of a session. */
const AT_ONCE = 20_000;
/** As many as there are cores to be expected: each reads what it writes in a session beside. */
const SESSIONS = 2;

/** How often deals are copied that are open, and those that are not. */
export interface Copies {
  readonly open: number;
  readonly others: number;
}

/**
 * Copies each deal so many times. Needs the role that owns the tables; nobody else may be writing, and where it is given
 * up in the middle the database is of no use.
 */
export async function growBook(ownerUrl: string, copies: Copies): Promise<void> {
  await withSession(ownerUrl, async (owner) => {
    await setLivedApart(owner);
    const indexes = await dropIndexes(owner);
    await inSessions(ownerUrl, await roundsFor(owner, copies), (writer, round) =>
      withSession(ownerUrl, (reader) => copyRound({ reader, writer }, round, copies)),
    );
    await inSessions(ownerUrl, indexes, (client, index) => client.query(index));
    await owner.query('drop schema lived cascade');
    await owner.query('vacuum analyze');
  });
}

/** Does each piece of work once, a few at the same time. */
async function inSessions<T>(
  url: string,
  pieces: readonly T[],
  work: (client: pg.Client, piece: T) => Promise<unknown>,
): Promise<void> {
  const left = [...pieces];
  const session = (client: pg.Client): Promise<void> => untilNoneLeft(left, (piece) => work(client, piece));
  await Promise.all(Array.from({ length: SESSIONS }, () => withSession(url, session)));
}

async function untilNoneLeft<T>(left: T[], work: (piece: T) => Promise<unknown>): Promise<void> {
  for (let piece = left.shift(); piece !== undefined; piece = left.shift()) await work(piece);
}

async function withSession<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    // What is copied was checked when it was lived; neither it nor the chain is looked at again row by row.
    await client.query('set session_replication_role = replica');
    await client.query("set work_mem = '256MB'; set maintenance_work_mem = '512MB'; set jit = off");
    await client.query(TOOLS);
    return await work(client);
  } finally {
    await client.end();
  }
}

/** What was lived, so that it is told from the copies. */
async function setLivedApart(owner: pg.Client): Promise<void> {
  await owner.query('create schema lived');
  for (const table of TABLES) await owner.query(`create table lived.${table} as select * from public.${table}`);
  await owner.query('analyze');
}

/** Indexes are made in one go at the end, but for those that keep keys unique. Gives how. */
async function dropIndexes(owner: pg.Client): Promise<readonly string[]> {
  const { rows } = await owner.query<{ name: string; definition: string }>(
    `select i.indexrelid::regclass::text as name, pg_get_indexdef(i.indexrelid) as definition
     from pg_index i left join pg_constraint c on c.conindid = i.indexrelid
     where i.indrelid = any($1::regclass[]) and c.oid is null order by pg_relation_size(i.indrelid) desc, 1`,
    [TABLES],
  );
  for (const { name } of rows) await owner.query(`drop index ${name}`);
  return rows.map(({ definition }) => definition);
}

/** From which copy to which at once. */
interface Round {
  readonly from: number;
  readonly to: number;
}

async function roundsFor(owner: pg.Client, { open, others }: Copies): Promise<readonly Round[]> {
  const { rows } = await owner.query<{ lived: number }>('select greatest(1, count(*))::int as lived from deals');
  const most = Math.max(open, others);
  const each = Math.max(1, Math.floor(AT_ONCE / (rows[0]?.lived ?? 1)));
  return Array.from({ length: Math.ceil(most / each) }, (_, place) => ({
    from: place * each + 1,
    to: Math.min(most, (place + 1) * each),
  }));
}

/* The instant in front stays, and what is random in an id is drawn from the old id and the number of the copy. */
const TOOLS = `
create function pg_temp.copy_id(old uuid, n int) returns uuid language sql immutable as $$
  select overlay(overlay(md5(old::text || n) placing left(replace(old::text, '-', ''), 13) from 1) placing 'a' from 17)::uuid
$$;`;

/** The sessions of one round: what is read of lived deals, and what is written of new ones. */
interface Pair {
  readonly reader: pg.Client;
  readonly writer: pg.Client;
}

async function copyRound(pair: Pair, { from, to }: Round, { open, others }: Copies): Promise<void> {
  await pair.reader.query(
    `create temp table grown as select id as old_id, pg_temp.copy_id(id, n) as new_id, n
     from lived.deals, generate_series(${from}, ${to}) n where n <= case when status = 'open' then ${open} else ${others} end`,
  );
  await pair.reader.query('analyze grown');
  await copy(pair, 'deals', 'id', DEAL);
  for (const [table, otherwise] of Object.entries(HISTORY))
    await copy(pair, table, 'deal_id', { deal_id: 'g.new_id', ...otherwise });
  await copyJournal(pair);
  await copy(pair, 'deal_heads', 'deal_id', HEAD);
}

/** Copies the rows of the deals that are grown, with some columns said otherwise. */
async function copy(
  pair: Pair,
  table: string,
  ofDeal: string,
  otherwise: Readonly<Record<string, string>>,
): Promise<void> {
  const { rows } = await pair.reader.query<{ name: string }>(
    `select attname as name from pg_attribute where attrelid = $1::regclass and attnum > 0 and not attisdropped and attidentity = '' and attgenerated = '' order by attnum`,
    [table],
  );
  const names = rows.map(({ name }) => name);
  await written(
    pair,
    `${table} (${names.map((name) => `"${name}"`).join(', ')})`,
    `select ${names.map((name) => otherwise[name] ?? `t."${name}"`).join(', ')}
     from grown g join lived.${table} t on t.${ofDeal} = g.old_id order by g.new_id`,
  );
}

/** Writes what is selected. */
const written = ({ reader, writer }: Pair, into: string, selected: string): Promise<void> =>
  pipeline(
    reader.query(copyTo(`copy (${selected}) to stdout (format binary)`)),
    writer.query(copyFrom(`copy ${into} from stdin (format binary)`)),
  );

/** The entries of each deal one after the other, as the trigger would chain them. */
const copyJournal = (pair: Pair): Promise<void> =>
  written(
    pair,
    'journal (deal_id, seq, kind, stage_id, happened_at, recorded_at, by_id, by_actor, body, text_id, text_digest, previous_hash, hash)',
    `with entries as (
       select g.new_id, j.*, pg_temp.copy_id(j.text_id, g.n) as new_text,
         journal_chain('', g.new_id, j.seq, j.kind, j.stage_id, j.happened_at, j.recorded_at, coalesce(j.by_actor, j.by_id::text), j.body, j.text_digest)
           over (partition by g.new_id order by j.seq) as new_hash
       from grown g join lived.journal j on j.deal_id = g.old_id
     )
     select new_id, seq, kind, stage_id, happened_at, recorded_at, by_id, by_actor, body, new_text, text_digest,
       lag(new_hash, 1, '') over (partition by new_id order by seq), new_hash
     from entries`,
  );
