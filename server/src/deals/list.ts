import { localDay } from '@ladder/core';
import { visibleDeals } from '../access/dealAccess.ts';
import { type Context, inTransaction } from '../context.ts';
import { likeText } from '../db/likeText.ts';
import { at, sql } from '../db/sql.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { organisation } from '../session/organisation.ts';
import type { Person } from '../session/person.ts';
import { CARD_COLUMNS, CARD_JOINS, type CardRow, toCards } from './cards.ts';
import { type DealFilter, filterDeals } from './filter.ts';
import { STANDING_OF_DEAL } from './standing.ts';

export interface ListQuery extends DealFilter {
  readonly after?: string;
  readonly limit?: number;
  readonly process?: string;
  readonly stage?: string;
  readonly find?: string;
  readonly status?: 'open' | 'won' | 'lost' | 'voided';
  readonly ageFrom?: number;
  readonly ageTo?: number;
}

/** Deals, longest in their stage first, a page at a time. */
export async function listDeals(context: Context, person: Person, query: ListQuery): Promise<unknown> {
  const now = context.clock.now();
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['instant', 'id'])];
  const [seen, filter] = [visibleDeals(person), filterDeals(query)];
  return inTransaction(context, async (tx) => {
    const today = localDay(now, (await organisation(tx)).timeZone);
    const rows = await sql<CardRow & { entered_at: string }>(
      tx,
      `select ${CARD_COLUMNS}, d.entered_at::text from deals d ${CARD_JOINS} ${STANDING_OF_DEAL}
       where d.status = :status and ${seen.condition} and ${filter.condition}
         and (:process::uuid is null or d.process_id = :process::uuid) and (:stage::text is null or d.stage_id = :stage::text)
         and (:find::text is null or d.name_fold like :find::text or cu.name_fold like :find::text)
         and (:ageFrom::int is null or d.entered_day <= :today::date - :ageFrom::int) and (:ageTo::int is null or d.entered_day >= :today::date - :ageTo::int)
         and (:lastAt::timestamptz is null or (d.entered_at, d.id) > (:lastAt::timestamptz, :lastId::uuid))
       order by d.entered_at, d.id limit :limit`,
      {
        ...seen.parameters,
        ...filter.parameters,
        status: query.status ?? 'open',
        process: query.process,
        stage: query.stage,
        today,
        now: at(now),
        ageFrom: query.ageFrom,
        ageTo: query.ageTo,
        find: query.find ? likeText(query.find) : null,
        lastAt: cursor?.[0],
        lastId: cursor?.[1],
        limit: limit + 1,
      },
    );
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
