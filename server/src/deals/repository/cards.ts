import type { DealId, DealStatus, ProcessId, StageId, Standing, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { seesAll } from '../../access/dealAccess.ts';
import { likeText } from '../../db/likeText.ts';
import { asArray, at, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';
import type { DealCard } from '../cards.ts';
import { followedBy, REVISION } from './followed.ts';
import { type AskedFilter, filterOn, narrowed, type Scope, SO_NOW } from './openBook.ts';

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
  readonly standing: Standing;
  readonly findings: number;
  readonly owed: number;
  readonly revision: number;
  readonly status: DealCard['status'];
  readonly version: VersionId;
  /** The transactions that last wrote the rows that the deal's facts are in: each command writes the head. */
  readonly mark: string;
}

/** Columns of a card, from `deal_states d` with the deal's own row `w`, its customer `cu`, owner `ow` and team `te`. */
export const CARD_COLUMNS = `d.deal_id as id, w.name, cu.name as customer, d.stage_id as stage, ow.name as owner, te.name as team, d.value_minor::float8 as minor,
  d.currency, d.entered_day::text as entered, w.closed_day::text as left, d.move_on_day::text as move_on, d.close_date::text, d.standing, d.findings, d.owed,
  ${REVISION} as revision, d.status, fv.id as version, concat_ws(' ', w.xmin, h.xmin, cu.xmin, ct.xmin) as mark`;

export const CARD_JOINS = `join deals w on w.id = d.deal_id ${followedBy('w')} left join customers cu on cu.id = w.customer_id
  left join contacts ct on ct.id = w.contact_id left join people ow on ow.id = d.owner_id
  left join teams te on te.id = d.team_id join deal_heads h on h.deal_id = d.deal_id`;

export interface ListQuery extends AskedFilter {
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

/**
 * Always so, and lets a page go by an index of all deals. A page of a team or an owner must not: where theirs are not among those
 * longest in their stage, it would read everyone else's first, and the planner does not know.
 */
const OF_ALL = `d.entered_at > '-infinity'`;

/** The page of whoever sees some teams' deals and some people's: a page of each, in the order of its own index, put together. */
const ofSeen = (pageOf: (whose: string) => string): string => `
  select distinct on (entered_at, deal_id) * from (
    select p.* from unnest(:seenTeams::uuid[]) s (id) cross join lateral (${pageOf('d.team_id = s.id')}) p
    union all select p.* from unnest(:seenOwners::uuid[]) s (id) cross join lateral (${pageOf('d.owner_id = s.id')}) p
  ) seen order by entered_at, deal_id limit :limit`;

/** Cards of deals that the person may see, longest in their stage first. */
export async function findCards(
  tx: EntityManager,
  person: Person,
  query: ListQuery,
  { today, now, limit, cursor }: Page,
): Promise<(CardRow & { entered_at: string })[]> {
  const [scope, found] = [narrowed(person, filterOn(query, today)), await findWords(tx, query.find)];
  const pageOf = (whose: string): string => `
    select d.* from deal_states d ${found.from}
    where d.status = :status and ${SO_NOW} and ${scope.condition} and ${found.condition}
      and (:process::uuid is null or d.process_id = :process::uuid) and (:stage::text is null or d.stage_id = :stage::text)
      and (:ageFrom::int is null or d.entered_day <= :today::date - :ageFrom::int) and (:ageTo::int is null or d.entered_day >= :today::date - :ageTo::int)
      and ${whose} and (:lastAt::timestamptz is null or (d.entered_at, d.deal_id) > (:lastAt::timestamptz, :lastId::uuid))
    order by d.entered_at, d.deal_id limit :limit`;
  const isNarrow = query.team !== undefined || query.owner !== undefined;
  const page = isNarrow ? pageOf('true') : seesAll(person) ? pageOf(OF_ALL) : ofSeen(pageOf);
  return sql<CardRow & { entered_at: string }>(
    tx,
    `select ${CARD_COLUMNS}, d.entered_at::text from (${page}) d ${CARD_JOINS} order by d.entered_at, d.deal_id`,
    {
      ...scope.parameters,
      ...found.parameters,
      status: query.status ?? 'open',
      process: query.process,
      stage: query.stage,
      today,
      now: at(now),
      ageFrom: query.ageFrom,
      ageTo: query.ageTo,
      lastAt: cursor?.[0],
      lastId: cursor?.[1],
      limit,
    },
  );
}

/** Words that no more deals have are looked up; commoner ones are soon met while the list is gone through in its order. */
const RARE = 1_000;

async function findWords(tx: EntityManager, find: string | undefined): Promise<Scope & { readonly from: string }> {
  if (!find) return { from: '', condition: 'true', parameters: {} };
  const words = likeText(find);
  const rows = await sql<{ id: DealId }>(
    tx,
    `select id from (
       (select id from deals where name_fold like :words limit :most)
       union (select w.id from customers c join deals w on w.customer_id = c.id where c.name_fold like :words limit :most)
     ) found`,
    { words, most: RARE + 1 },
  );
  if (rows.length <= RARE)
    return {
      from: '',
      condition: 'd.deal_id = any(:found::uuid[])',
      parameters: { found: asArray(rows.map(({ id }) => id)) },
    };
  return {
    from: 'join deals w on w.id = d.deal_id left join customers cu on cu.id = w.customer_id',
    condition: '(w.name_fold like :words or cu.name_fold like :words)',
    parameters: { words },
  };
}
