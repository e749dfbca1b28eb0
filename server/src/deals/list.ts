import { localDay } from '@ladder/core';
import { type Context, inTransaction } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { toCards } from './cards.ts';
import { findCards, type ListQuery } from './repository/cards.ts';

/** Deals, longest in their stage first, a page at a time. */
export async function listDeals(context: Context, person: Person, query: ListQuery): Promise<unknown> {
  const now = context.clock.now();
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['instant', 'id'])];
  return inTransaction(context, async (tx) => {
    const today = localDay(now, (await organisation(tx)).timeZone);
    const rows = await findCards(tx, person, query, { today, now, limit: limit + 1, cursor });
    const cards = await toCards(tx, rows.slice(0, limit), today, now);
    const page = toPage(
      rows,
      limit,
      (row) => [row.entered_at, row.id],
      (row) => row,
    );
    return { items: cards, next: page.next };
  });
}
