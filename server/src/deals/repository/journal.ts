import type { DealId, JournalBody, StageId } from '@ladder/core';
import { type Connection, sql } from '../../db/sql.ts';
import { followedBy } from './followed.ts';

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

/** What happened to the process as a whole while the deal followed it, told between two instants as the deal's own, the newest first. */
export const findPublishes = (
  connection: Connection,
  deal: DealId,
  since: Date | null,
  before: number | undefined,
): Promise<EntryRow[]> =>
  sql<EntryRow>(
    connection,
    `select e.seq, coalesce(st.stage_id, d.stage_id) as stage, e.happened_at as happened, e.recorded_at as recorded, coalesce(e.by_actor, e.by_id::text) as by,
       json_build_object('kind', 'version_changed', 'before', e.body->>'before', 'after', e.body->>'version') as body, null as text
     from deals d join moves began on began.deal_id = d.id and began.seq = 1 join process_versions bv on bv.id = began.version_id ${followedBy('d')}
     join process_events e on e.process_id = d.process_id and (e.body->>'number')::int > bv.number and (e.body->>'number')::int <= fv.number
     left join deal_states st on st.deal_id = d.id and st.correction = 0 and st.from_at <= e.recorded_at and st.to_at > e.recorded_at
     where d.id = :deal and not exists (select from deal_stays s where s.deal_id = d.id and s.from_at <= e.recorded_at and s.to_at > e.recorded_at)
       and (:since::timestamptz is null or e.recorded_at >= :since::timestamptz)
       and (:before::int is null or e.recorded_at < (select recorded_at from journal where deal_id = :deal and seq = :before::int))
     order by e.seq desc limit :most`,
    { deal, since, before, most: MOST_PUBLISHES },
  );

/** A deal sees fewer publishes between two of its entries than this. */
const MOST_PUBLISHES = 200;

interface EntryText {
  readonly text: string | null;
  readonly has_text: boolean;
  /** The document whose name it is; null where it is no name of one. */
  readonly document: string | null;
  /** The task whose title it is. */
  readonly task: number | null;
}

/** The free text of an entry; null where there is no such entry. */
export async function findEntryText(connection: Connection, id: DealId, seq: number): Promise<EntryText | null> {
  const [entry] = await sql<EntryText>(
    connection,
    `select t.text, j.text_id is not null as has_text, j.body->>'document' as document,
       case when j.kind in ('task_added', 'task_ended', 'task_reopened', 'task_passed', 'task_renamed') then (j.body->>'task')::int end as task from journal j left join journal_texts t on t.id = j.text_id where j.deal_id = :id and j.seq = :seq`,
    { id, seq },
  );
  return entry ?? null;
}

/** The server may not erase a text itself; the database's own function does it where the erasure is journalled. */
export const eraseEntryText = (connection: Connection, id: DealId, seq: number): Promise<unknown> =>
  sql(connection, `select erase_journal_text(:id::uuid, :seq::integer)`, { id, seq });

/** Takes the title of a task away. */
export const eraseTaskTitle = (connection: Connection, deal: DealId, task: number): Promise<unknown> =>
  sql(connection, `update tasks set title = '' where deal_id = :deal and seq = :task`, { deal, task });

/** Takes the bytes and the name of a document away; its digest stays (S57). */
export async function eraseDocument(connection: Connection, document: string): Promise<void> {
  await sql(connection, 'delete from document_chunks where document_id = :document', { document });
  await sql(connection, `update documents set name = '' where id = :document`, { document });
}
