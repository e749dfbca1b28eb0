import type { DealId, DealStatus, ProcessId, StageId, Standing } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../../access/repository.ts';
import { likeText } from '../../db/likeText.ts';
import { at, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';
import type { DealCard } from '../cards.ts';
import { type DealFilter, filterDeals } from './filter.ts';
import { STANDING_OF_DEAL } from './standing.ts';

/** What the database gives for a card. */
export interface CardRow {
  readonly id: DealId;
  readonly name: string;
  readonly customer: string | null;
  readonly stage: StageId;
  readonly owner: string | null;
  readonly team: string | null;
  readonly minor: number | null;
  readonly currency: string | null;
  readonly entered: string;
  readonly left: string | null;
  readonly move_on: string | null;
  readonly close_date: string | null;
  readonly standing: Standing | null;
  readonly findings: number | null;
  readonly owed: number | null;
  readonly revision: number;
  readonly status: DealCard['status'];
}

/** Columns of a card, from `deals d` with its customer `cu`, owner `ow`, team `te` and standing `s`. */
export const CARD_COLUMNS = `d.id, d.name, cu.name as customer, d.stage_id as stage, ow.name as owner, te.name as team, d.value_minor::float8 as minor,
  d.currency, d.entered_day::text as entered, d.closed_day::text as left, d.move_on_day::text as move_on, d.close_date::text, s.standing, s.findings, s.owed, h.revision, d.status`;

export const CARD_JOINS = `left join customers cu on cu.id = d.customer_id left join people ow on ow.id = d.owner_id left join teams te on te.id = d.team_id join deal_heads h on h.deal_id = d.id`;

export interface ListQuery extends DealFilter {
  readonly after?: string;
  readonly limit?: number;
  readonly process?: ProcessId;
  readonly stage?: StageId;
  readonly find?: string;
  readonly status?: DealStatus['state'];
  readonly ageFrom?: number;
  readonly ageTo?: number;
}

export interface Page {
  readonly today: string;
  readonly now: number;
  readonly limit: number;
  readonly cursor: readonly [string, string] | null;
}

/** Cards of deals that the person may see, longest in their stage first. */
export function findCards(
  tx: EntityManager,
  person: Person,
  query: ListQuery,
  { today, now, limit, cursor }: Page,
): Promise<(CardRow & { entered_at: string })[]> {
  const [seen, filter] = [visibleDeals(person), filterDeals(query)];
  return sql<CardRow & { entered_at: string }>(
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
      limit,
    },
  );
}
