import { describeEntry, type JournalBody } from '@ladder/core';
import { type Context, inTransaction } from '../context.ts';
import { type Connection, sql } from '../db/sql.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { Person } from '../people/person.ts';
import { loadNames, nameLookup } from './names.ts';
import { openDeal } from './runCommand.ts';

interface EntryRow {
  readonly seq: number;
  readonly stage: string;
  readonly happened: Date;
  readonly recorded: Date;
  readonly by: string | null;
  readonly body: JournalBody;
  readonly text: string | null;
}

/** A deal's journal in words, newest first. */
export async function listJournal(
  context: Context,
  person: Person,
  id: string,
  query: { after?: string; limit?: number },
): Promise<unknown> {
  return inTransaction(context, async (tx) => {
    const { deal, setting } = await openDeal(tx, person, id);
    const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
    const rows = await sql<EntryRow>(
      tx,
      `select j.seq, j.stage_id as stage, j.happened_at as happened, j.recorded_at as recorded, j.by_id as by, j.body, t.text
       from journal j left join journal_texts t on t.id = j.text_id
       where j.deal_id = :deal and (:before::int is null or j.seq < :before::int) order by j.seq desc limit :limit`,
      { deal: deal.id, before: cursor?.[0], limit: limit + 1 },
    );
    const nameOf = nameLookup(await loadNames(tx, rows));
    return toPage(
      rows,
      limit,
      ({ seq }) => [seq],
      ({ happened, recorded, by, body, ...row }) => ({
        ...row,
        kind: body.kind,
        body,
        happenedAt: happened.toISOString(),
        recordedAt: recorded.toISOString(),
        by: by === null ? null : (nameOf(by) ?? null),
        says: describeEntry(body, { document: setting.document, catalogue: setting.catalogue, nameOf }),
      }),
    );
  });
}

export interface BrokenEntry {
  readonly deal: string;
  readonly seq: number;
  readonly what: 'changed' | 'cut off' | 'text changed';
}

/** The first entry of the whole journal whose chain does not hold, also where the newest of a deal were cut off (S36). */
export async function verifyJournal(connection: Connection): Promise<{ entries: number; broken: BrokenEntry | null }> {
  const [row] = await sql<{ entries: number; broken: BrokenEntry | null }>(
    connection,
    `with chained as (
       select j.*, lag(hash, 1, ''::bytea) over deal as before, row_number() over deal as place from journal j window deal as (partition by deal_id order by seq)
     ), changed as (
       select id, deal_id, seq, 'changed' as what from chained
       where previous_hash <> before or seq <> place
         or hash <> journal_hash(previous_hash, deal_id, seq, kind, stage_id, happened_at, recorded_at, by_id, body, text_digest)
     ), altered as (
       select j.id, j.deal_id, j.seq, 'text changed' as what from journal j join journal_texts t on t.id = j.text_id
       where t.text is not null and j.text_digest <> sha256(t.salt || convert_to(t.text, 'UTF8'))
     ), cut as (
       select 9223372036854775807 as id, h.deal_id, coalesce(l.seq, 0) + 1 as seq, 'cut off' as what from deal_heads h
       left join lateral (select seq, hash from journal where deal_id = h.deal_id order by seq desc limit 1) l on true
       where h.journal_count <> coalesce(l.seq, 0) or h.journal_hash <> coalesce(l.hash, ''::bytea)
     )
     select (select count(*)::int from journal) as entries,
       (select json_build_object('deal', deal_id, 'seq', seq, 'what', what)
        from (select * from changed union all select * from altered union all select * from cut) b order by id, deal_id limit 1) as broken`,
  );
  return row ?? { entries: 0, broken: null };
}
