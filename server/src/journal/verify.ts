import { type Connection, sql } from '../db/sql.ts';
import { type Checkpoint, lastCheckpoint } from './checkpoint.ts';
import { type CheckedHead, checkpointDigest, entryHash, type HashedEntry, textDigest } from './entryHash.ts';

/** What is wrong with the journal, at the first place where it is. */
export type Broken =
  | {
      /** An entry says another thing than was written, is gone from the middle or from the end, was added, or its text was altered or taken away. */
      readonly what: 'changed' | 'missing' | 'cut off' | 'added' | 'text changed' | 'text gone';
      readonly deal: string;
      readonly seq: number;
    }
  | { readonly what: 'head changed'; readonly deal: string }
  | { readonly what: 'checkpoint changed' | 'checkpoint missing'; readonly number: number };

export interface Verification {
  readonly entries: number;
  readonly checkpoint: Checkpoint | null;
  readonly broken: Broken | null;
}

/**
 * Goes through the whole journal: each deal's chain, its texts, its head, and the checkpoints over all of them. Against a
 * checkpoint that was kept elsewhere it also finds what someone who may write everything made to agree since: entries that
 * were cut off or written anew together with their head, and deals that were emptied or deleted.
 */
export async function verifyJournal(connection: Connection, kept: Checkpoint | null = null): Promise<Verification> {
  const checkpoint = await lastCheckpoint(connection);
  const chain = await verifyCheckpoints(connection, kept);
  const book = await verifyDeals(connection);
  return { entries: book.entries, checkpoint, broken: chain.broken ?? book.broken };
}

/** The chain of checkpoints, and the kept one in it. */
async function verifyCheckpoints(connection: Connection, kept: Checkpoint | null): Promise<{ broken: Broken | null }> {
  let previous = '';
  let expected = 1;
  for await (const { number, digest, heads } of readCheckpoints(connection)) {
    if (number !== expected) return { broken: { what: 'checkpoint missing', number: expected } };
    if (checkpointDigest(previous, number, heads) !== digest) return { broken: { what: 'checkpoint changed', number } };
    if (kept?.number === number && kept.digest !== digest) return { broken: { what: 'checkpoint changed', number } };
    previous = digest;
    expected++;
  }
  return { broken: kept && kept.number >= expected ? { what: 'checkpoint missing', number: expected } : null };
}

async function* readCheckpoints(
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

interface EntryRow extends HashedEntry {
  readonly id: string;
  readonly hash: string;
  readonly text: string | null;
  readonly salt: Buffer | null;
  readonly has_text: boolean;
  readonly erased: boolean;
}

interface DealRow {
  readonly deal: string;
  /** What its head says; null where there is none. */
  readonly count: number | null;
  readonly hash: string | null;
  /** What the newest checkpoint that names it says. */
  readonly checked_count: number | null;
  readonly checked_hash: string | null;
}

const DEALS_AT_ONCE = 500;

/** Every deal that a head, an entry or a checkpoint names, in order, some at a time. */
async function* readDeals(connection: Connection): AsyncGenerator<readonly DealRow[]> {
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const rows = await sql<DealRow>(
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
    const last = rows.at(-1);
    if (!last) return;
    yield rows;
    after = last.deal;
  }
}

async function verifyDeals(connection: Connection): Promise<{ entries: number; broken: Broken | null }> {
  let entries = 0;
  let first: Found | null = null;
  for await (const deals of readDeals(connection)) {
    const byDeal = await readEntries(connection, deals);
    for (const deal of deals) {
      const own = byDeal.get(deal.deal) ?? [];
      entries += own.length;
      const found = verifyDeal(deal, own);
      if (found && (!first || found.at < first.at)) first = found;
    }
  }
  return { entries, broken: first?.broken ?? null };
}

async function readEntries(
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

/** What is broken, and the place in the journal by which the first of several is told. */
interface Found {
  readonly at: number;
  readonly broken: Broken;
}

const AT_THE_END = Number.MAX_SAFE_INTEGER;

function verifyDeal(deal: DealRow, entries: readonly EntryRow[]): Found | null {
  let previous = '';
  for (const [place, entry] of entries.entries()) {
    const broken = verifyEntry(deal, entry, place + 1, previous);
    if (broken) return { at: Number(entry.id), broken };
    previous = entry.hash;
    if (deal.checked_count === entry.seq && deal.checked_hash !== entry.hash)
      return { at: Number(entry.id), broken: { what: 'changed', deal: deal.deal, seq: entry.seq } };
  }
  return verifyEnd(deal, entries, previous);
}

function verifyEntry(deal: DealRow, entry: EntryRow, seq: number, previous: string): Broken | null {
  const at = (
    what: Exclude<Broken['what'], 'head changed' | 'checkpoint changed' | 'checkpoint missing'>,
    place = seq,
  ): Broken => ({
    what,
    deal: deal.deal,
    seq: place,
  });
  if (entry.seq > seq) return at('missing');
  if (entry.seq < seq) return at('added', entry.seq);
  if (entryHash(previous, entry) !== entry.hash) return at('changed');
  if (!entry.has_text) return null;
  if (entry.text === null) return entry.erased ? null : at('text gone');
  return textDigest(entry.salt ?? Buffer.alloc(0), entry.text) === entry.digest ? null : at('text changed');
}

/** Whether the chain goes as far as its head and the checkpoints say. */
function verifyEnd(deal: DealRow, entries: readonly EntryRow[], hash: string): Found | null {
  const written = Math.max(deal.count ?? 0, deal.checked_count ?? 0);
  const at = (broken: Broken): Found => ({ at: AT_THE_END, broken });
  if (entries.length < written) return at({ what: 'cut off', deal: deal.deal, seq: entries.length + 1 });
  if (deal.count === null && entries.length === 0) return null;
  if (entries.length > (deal.count ?? 0)) {
    const added = entries[deal.count ?? 0];
    return { at: Number(added?.id ?? AT_THE_END), broken: { what: 'added', deal: deal.deal, seq: added?.seq ?? 0 } };
  }
  return hash === (deal.hash ?? '') ? null : at({ what: 'head changed', deal: deal.deal });
}
