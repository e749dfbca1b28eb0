import type { DealId } from '@ladder/core';
import { describeEntry } from '@ladder/core';
import { type Context, inTransaction } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { Person } from '../session/person.ts';
import { nameLookup } from './names.ts';
import { type EntryRow, findEntries, findPublishes } from './repository/journal.ts';
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
    const since = rows.length > limit ? (rows[limit - 1]?.recorded ?? null) : null;
    const publishes = await findPublishes(tx, deal.id, since, cursor?.[0]);
    const nameOf = nameLookup((await loadNames(tx, [], rows, publishes)).names);
    const told =
      (of: 'deal' | 'process') =>
      ({ happened, recorded, by, body, ...row }: EntryRow) => ({
        ...row,
        of,
        kind: body.kind,
        body,
        happenedAt: happened.toISOString(),
        recordedAt: recorded.toISOString(),
        by: by === null ? null : (nameOf(by) ?? null),
        says: describeEntry(body, { document: setting.document, catalogue: setting.catalogue, nameOf }),
      });
    const page = toPage(rows, limit, ({ seq }) => [seq], told('deal'));
    const items = [...publishes.map(told('process')), ...page.items];
    return { ...page, items: items.toSorted((a, b) => Date.parse(b.recordedAt) - Date.parse(a.recordedAt)) };
  });
}
