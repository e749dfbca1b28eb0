import type { TypeOf, WorkKindName, work } from '@ladder/contract';
import { at, type Connection, sql } from '../db/sql.ts';
import type { Problem } from '../problems/problem.ts';

export type WorkView = TypeOf<typeof work.view>;

interface WorkRow extends Omit<WorkView, 'startedAt' | 'endedAt'> {
  readonly started: Date;
  readonly ended: Date | null;
}

const COLUMNS = `w.id, w.kind, w.subject, w.state, p.name as by, w.started_at as started, w.ended_at as ended, w.done, w.total, w.deals, w.problem,
  case when w.state <> 'running' or w.binding then 'over' when w.cancel_asked then 'asked' else 'may' end as cancel`;
const FROM = `long_work w join people p on p.id = w.by_id`;

const toView = ({ started, ended, ...row }: WorkRow): WorkView => ({
  ...row,
  startedAt: started.toISOString(),
  endedAt: ended?.toISOString() ?? null,
});

export async function findWork(connection: Connection, id: string): Promise<WorkView | null> {
  const [row] = await sql<WorkRow>(connection, `select ${COLUMNS} from ${FROM} where w.id = :id`, { id });
  return row ? toView(row) : null;
}

export async function findAllWork(
  connection: Connection,
  subject: string | undefined,
  limit: number,
  before: number | undefined,
): Promise<readonly { readonly place: number; readonly view: WorkView }[]> {
  const rows = await sql<WorkRow & { place: number }>(
    connection,
    `select ${COLUMNS}, w.place::float8 as place from ${FROM}
     where ${subject === undefined ? 'true' : 'w.subject = :subject'} and (:before::bigint is null or w.place < :before::bigint)
     order by w.place desc limit :limit`,
    { subject, limit, before },
  );
  return rows.map(({ place, ...row }) => ({ place, view: toView(row) }));
}

export interface NewWork {
  readonly id: string;
  readonly kind: WorkKindName;
  readonly subject: string;
  readonly request: object;
  readonly by: string;
  readonly total: number | null;
}

/** False where something is being done with the same subject. */
export async function insertWork(connection: Connection, work: NewWork, now: number): Promise<boolean> {
  const made = await sql(
    connection,
    `insert into long_work (id, kind, subject, request, by_id, state, started_at, total)
     values (:id, :kind, :subject, :request, :by, 'running', :now, :total)
     on conflict (subject) where state = 'running' do nothing returning id`,
    { ...work, now: at(now) },
  );
  return made.length > 0;
}

export interface TakenWork {
  readonly kind: WorkKindName;
  readonly subject: string;
  readonly request: object;
  readonly by: string;
  readonly cancelAsked: boolean;
}

/** Holds a work until the transaction ends; null where it is over, or someone else has it in hand. */
export async function takeWork(connection: Connection, id: string): Promise<TakenWork | null> {
  const [row] = await sql<TakenWork>(
    connection,
    `select kind, subject, request, by_id as by, cancel_asked as "cancelAsked" from long_work
     where id = :id and state = 'running' and pg_try_advisory_xact_lock(hashtextextended(id::text, 0))`,
    { id },
  );
  return row ?? null;
}

/** Counts a beginning, over a connection of its own; false where it was begun too often without coming to an end. */
export async function noteBeginning(connection: Connection, id: string, most: number): Promise<boolean> {
  const counted = await sql(
    connection,
    `update long_work set begun = begun + 1 where id = :id and begun < :most returning id`,
    { id, most },
  );
  return counted.length > 0;
}

/** It was put off in good order, and is begun again. */
export const dropBeginning = (connection: Connection, id: string): Promise<unknown> =>
  sql(connection, `update long_work set begun = greatest(0, begun - 1) where id = :id and state = 'running'`, { id });

/** Writes down how far a work is, over a connection of its own; false where it was cancelled. */
export async function reportProgress(
  connection: Connection,
  id: string,
  done: number,
  total: number | undefined,
): Promise<boolean> {
  const [row] = await sql<{ cancelled: boolean }>(
    connection,
    `update long_work set done = least(:done::int, coalesce(:total::int, total)), total = coalesce(:total::int, total) where id = :id and state = 'running' returning cancel_asked as cancelled`,
    { id, done, total },
  );
  return row?.cancelled === false;
}

/** From now on it is not cancelled; false where it was. */
export async function markBinding(connection: Connection, id: string): Promise<boolean> {
  const bound = await sql(
    connection,
    `update long_work set binding = true where id = :id and state = 'running' and not cancel_asked returning id`,
    { id },
  );
  return bound.length > 0;
}

/** False where it was cancelled meanwhile. */
export async function markDone(connection: Connection, id: string, deals: number, now: number): Promise<boolean> {
  const ended = await sql(
    connection,
    `update long_work set state = 'done', deals = :deals, done = coalesce(total, done), ended_at = :now where id = :id and state = 'running' and not cancel_asked returning id`,
    { id, deals, now: at(now) },
  );
  return ended.length > 0;
}

export const markCancelled = (connection: Connection, id: string, now: number): Promise<unknown> =>
  sql(connection, `update long_work set state = 'cancelled', ended_at = :now where id = :id and state = 'running'`, {
    id,
    now: at(now),
  });

export const markFailed = (connection: Connection, id: string, problem: Problem, now: number): Promise<unknown> =>
  sql(
    connection,
    `update long_work set state = 'failed', problem = :problem, ended_at = :now where id = :id and state = 'running'`,
    { id, problem: problem.toDocument(), now: at(now) },
  );

/** False where it is over, or is not cancelled any more. */
export async function askToCancel(connection: Connection, id: string): Promise<boolean> {
  const asked = await sql(
    connection,
    `update long_work set cancel_asked = true where id = :id and state = 'running' and not binding returning id`,
    { id },
  );
  return asked.length > 0;
}

export async function unfinishedWork(connection: Connection): Promise<readonly string[]> {
  const rows = await sql<{ id: string }>(
    connection,
    `select id from long_work where state = 'running' order by place limit 20`,
  );
  return rows.map(({ id }) => id);
}
