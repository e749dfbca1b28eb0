import type { DealId, JournalBody, StageId } from '@ladder/core';
import { type Connection, sql } from '../../db/sql.ts';

export interface EntryRow {
  readonly seq: number;
  readonly stage: StageId;
  readonly happened: Date;
  readonly recorded: Date;
  readonly by: string | null;
  readonly body: JournalBody;
  readonly text: string | null;
}

/** A deal's entries, the newest first. */
export const findEntries = (
  connection: Connection,
  deal: DealId,
  limit: number,
  before: number | undefined,
): Promise<EntryRow[]> =>
  sql<EntryRow>(
    connection,
    `select j.seq, j.stage_id as stage, j.happened_at as happened, j.recorded_at as recorded, coalesce(j.by_actor, j.by_id::text) as by, j.body, t.text
     from journal j left join journal_texts t on t.id = j.text_id
     where j.deal_id = :deal and (:before::int is null or j.seq < :before::int) order by j.seq desc limit :limit`,
    { deal, before, limit },
  );

/** The free text of an entry; null where there is no such entry. */
export async function findEntryText(
  connection: Connection,
  id: DealId,
  seq: number,
): Promise<{ readonly text: string | null; readonly has_text: boolean } | null> {
  const [entry] = await sql<{ text: string | null; has_text: boolean }>(
    connection,
    `select t.text, j.text_id is not null as has_text from journal j left join journal_texts t on t.id = j.text_id where j.deal_id = :id and j.seq = :seq`,
    { id, seq },
  );
  return entry ?? null;
}

/** The server may not erase a text itself; the database's own function does it where the erasure is journalled. */
export const eraseEntryText = (connection: Connection, id: DealId, seq: number): Promise<unknown> =>
  sql(connection, `select erase_journal_text(:id::uuid, :seq::integer)`, { id, seq });
