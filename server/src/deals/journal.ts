import type { DealId } from '@ladder/core';
import { describeEntry } from '@ladder/core';
import { type Context, inTransaction } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { Person } from '../session/person.ts';
import { nameLookup } from './names.ts';
import { findEntries } from './repository/journal.ts';
import { loadNames } from './repository/names.ts';
import { openDeal } from './runCommand.ts';

/** A deal's journal in words, newest first. */
export async function listJournal(
  context: Context,
  person: Person,
  id: DealId,
  query: { after?: string; limit?: number },
): Promise<unknown> {
  return inTransaction(context, async (tx) => {
    const { deal, setting } = await openDeal(tx, person, id, ['values']);
    const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
    const rows = await findEntries(tx, deal.id, limit + 1, cursor?.[0]);
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
