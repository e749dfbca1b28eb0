import type { CountedBefore, DealId, ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { RecountedPart } from '../db/entities/dayRecount.ts';
import { asArray, type Connection, sql } from '../db/sql.ts';

export interface StoredCalendar {
  readonly id: string;
  readonly name: string;
  readonly workingWeekdays: readonly number[];
  readonly holidays: readonly string[];
  readonly holidayNames: Readonly<Record<string, string>>;
  readonly processes: readonly { readonly id: ProcessId; readonly name: string }[];
}

const COLUMNS = `c.id, c.name, c.working_weekdays as "workingWeekdays", c.holidays::text[] as holidays, c.holiday_names as "holidayNames",
  (select coalesce(json_agg(json_build_object('id', p.id, 'name', p.name) order by p.name_fold), '[]') from processes p where p.calendar_id = c.id) as processes`;

export const findCalendars = (
  connection: Connection,
  limit: number,
  after: readonly [string, string] | null,
): Promise<StoredCalendar[]> =>
  sql<StoredCalendar>(
    connection,
    `select ${COLUMNS} from calendars c where :name::text is null or (c.name, c.id) > (:name, :id::uuid) order by c.name, c.id limit :limit`,
    { name: after?.[0], id: after?.[1], limit },
  );

export async function findCalendar(connection: Connection, id: string): Promise<StoredCalendar | null> {
  const [row] = await sql<StoredCalendar>(connection, `select ${COLUMNS} from calendars c where c.id = :id`, { id });
  return row ?? null;
}

/** Days ahead of open deals that are counted in working days, by what they are of. */
const AHEAD: Readonly<Record<RecountedPart, { readonly day: string; readonly from: string; readonly name: string }>> = {
  visit: {
    day: 't.move_on_day',
    from: `visits t join deals d on d.id = t.deal_id where t.left_at is null and not t.taken_back and t.in_working_days and t.move_on_day`,
    name: `''`,
  },
  run: {
    day: 't.due_day',
    from: `step_runs t join deals d on d.id = t.deal_id where t.ended_at is null and not t.taken_back and t.in_working_days and t.due_day`,
    name: 't.name',
  },
  task: {
    day: 't.due_day',
    from: `tasks t join deals d on d.id = t.deal_id where t.ended_at is null and t.in_working_days and t.due_day`,
    name: 't.title',
  },
};
const PARTS = Object.entries(AHEAD);

const OF_PROCESSES = `d.process_id = any(:processes::uuid[]) and d.status = 'open'`;

export interface DayCounted {
  readonly part: RecountedPart;
  readonly day: string;
  readonly count: number;
}

/** How many days of each kind lie on each day after today. */
export const countAhead = (
  connection: Connection,
  processes: readonly ProcessId[],
  today: string,
): Promise<DayCounted[]> =>
  sql<DayCounted>(
    connection,
    PARTS.map(
      ([part, { day, from }]) =>
        `select '${part}' as part, ${day}::text as day, count(*)::int as count from ${from} > :today and ${OF_PROCESSES} group by 2`,
    ).join(' union all '),
    { processes: asArray(processes), today },
  );

export interface DayAhead {
  readonly deal: { readonly id: DealId; readonly name: string };
  readonly part: RecountedPart;
  readonly name: string;
  readonly before: string;
}

/** The first of those that lie on any of these days. */
export const findAhead = (
  connection: Connection,
  processes: readonly ProcessId[],
  days: readonly string[],
  limit: number,
): Promise<DayAhead[]> =>
  sql<DayAhead>(
    connection,
    `select * from (${PARTS.map(
      ([part, { day, from, name }]) =>
        `(select json_build_object('id', d.id, 'name', d.name) as deal, '${part}' as part, ${name} as name, ${day}::text as before, d.id as deal_id
          from ${from} = any(:days::date[]) and ${OF_PROCESSES} order by ${day}, d.id limit :limit)`,
    ).join(' union all ')}) days order by before, deal_id, part limit :limit`,
    { processes: asArray(processes), days: asArray(days), limit },
  );

/** Notes all of them down, to be counted anew. */
export const noteRecounts = (tx: EntityManager, processes: readonly ProcessId[], today: string): Promise<unknown> =>
  sql(
    tx,
    `insert into day_recounts (deal_id, part, seq) ${PARTS.map(
      ([part, { from }]) => `select t.deal_id, '${part}', t.seq from ${from} > :today and ${OF_PROCESSES}`,
    ).join(' union all ')}`,
    { processes: asArray(processes), today },
  );

/** Deals of which something is still to be counted anew. */
export const dealsToRecount = async (connection: Connection, limit: number): Promise<readonly DealId[]> => {
  const rows = await sql<{ id: DealId }>(
    connection,
    `select distinct deal_id as id from day_recounts order by deal_id limit :limit`,
    { limit },
  );
  return rows.map(({ id }) => id);
};

export const countRecounts = async (connection: Connection): Promise<number> => {
  const [row] = await sql<{ count: number }>(connection, `select count(distinct deal_id)::int from day_recounts`);
  return row?.count ?? 0;
};

/** Takes what is to be counted anew of these deals off the list. */
export async function takeRecounts(
  tx: EntityManager,
  deals: readonly DealId[],
): Promise<ReadonlyMap<DealId, CountedBefore>> {
  const rows = await sql<{ deal: DealId; part: RecountedPart; seq: number }>(
    tx,
    `delete from day_recounts where deal_id = any(:deals::uuid[]) returning deal_id as deal, part, seq`,
    { deals: asArray(deals) },
  );
  const of = (deal: DealId, part: RecountedPart): readonly number[] =>
    rows.filter((row) => row.deal === deal && row.part === part).map(({ seq }) => seq);
  return new Map(
    deals.map((deal) => [deal, { visits: of(deal, 'visit'), runs: of(deal, 'run'), tasks: of(deal, 'task') }]),
  );
}
