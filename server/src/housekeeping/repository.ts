import { at, type Connection, sql } from '../db/sql.ts';

export const HOUR_MS = 3_600_000;

const DAY_MS = 24 * HOUR_MS;

/** What is kept for a time only, and for how long after the instant in its column. */
const KEPT: readonly { readonly statement: string; readonly keptMs: number }[] = [
  { statement: 'delete from sessions where expires_at < :before', keptMs: 0 },
  { statement: 'delete from idempotency_keys where created_at < :before', keptMs: DAY_MS },
  { statement: 'delete from notices where read_at < :before', keptMs: 90 * DAY_MS },
  { statement: 'delete from sign_in_tries where began_at < :before', keptMs: HOUR_MS },
  {
    statement: `delete from import_chunks c using imports i where i.id = c.import_id and i.state = 'uploaded' and i.uploaded_at < :before and not exists (select from long_work w where w.subject = i.id::text and w.state = 'running')`,
    keptMs: DAY_MS,
  },
  {
    statement: `delete from imports where state = 'uploaded' and uploaded_at < :before and not exists (select from import_chunks c where c.import_id = imports.id)
      and not exists (select from long_work w where w.subject = imports.id::text)`,
    keptMs: DAY_MS,
  },
  {
    statement: `delete from publish_judgings j using process_versions v where v.id = j.version_id and v.state = 'draft' and j.judged_at < :before
      and not exists (select from long_work w where w.subject = v.process_id::text and w.state = 'running')`,
    keptMs: HOUR_MS,
  },
  { statement: 'delete from long_work where ended_at < :before', keptMs: 90 * DAY_MS },
  {
    statement: 'delete from import_bad_rows b using imports i where i.id = b.import_id and i.uploaded_at < :before',
    keptMs: 90 * DAY_MS,
  },
  {
    statement: 'delete from import_chunks c using imports i where i.id = c.import_id and i.uploaded_at < :before',
    keptMs: 90 * DAY_MS,
  },
];

/** Throws away what has had its time. */
export async function throwAway(connection: Connection, now: number): Promise<void> {
  for (const { statement, keptMs } of KEPT) await sql(connection, statement, { before: at(now - keptMs) });
}
