import { describeEntry, type JournalBody } from '@ladder/core';
import { type Context, inTransaction } from '../context.ts';
import { sql } from '../db/sql.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { Person } from '../session/person.ts';
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
    const { deal, setting } = await openDeal(tx, person, id, ['values']);
    const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
    const rows = await sql<EntryRow>(
      tx,
      `select j.seq, j.stage_id as stage, j.happened_at as happened, j.recorded_at as recorded, coalesce(j.by_actor, j.by_id::text) as by, j.body, t.text
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
