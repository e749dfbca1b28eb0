import type { DealId, NoticeKind, ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/repository.ts';
import { asArray, at, type Connection, sql } from '../db/sql.ts';
import type { Person } from '../session/person.ts';

export interface FoundNotice {
  readonly id: string;
  readonly kind: NoticeKind;
  readonly deal: { readonly id: DealId; readonly name: string } | null;
  readonly published: {
    readonly process: { readonly id: ProcessId; readonly name: string };
    readonly number: number;
    readonly note: string | null;
  } | null;
  readonly event: string | null;
  readonly by: string | null;
  readonly times: number;
  readonly at: Date;
  readonly read: boolean;
}

/** What is told of a deal that its person may not see any more is not shown (S63). */
const seenBy = (person: Person) => {
  const { condition, parameters } = visibleDeals(person);
  return {
    seen:
      condition === 'true'
        ? 'true'
        : `(n.deal_id is null or exists (select from deals d where d.id = n.deal_id and ${condition}))`,
    parameters: { ...parameters, me: person.id },
  };
};

export function findNotices(
  connection: Connection,
  person: Person,
  limit: number,
  cursor: readonly [string, number] | null,
): Promise<FoundNotice[]> {
  const { seen, parameters } = seenBy(person);
  return sql<FoundNotice>(
    connection,
    `select n.id::text, n.kind, n.event, p.name as by, n.times, n.at, n.read_at is not null as read,
       case when n.deal_id is not null then (select json_build_object('id', o.id, 'name', o.name) from deals o where o.id = n.deal_id) end as deal,
       case when n.version_id is not null then (
         select json_build_object('process', json_build_object('id', c.id, 'name', c.name), 'number', v.number, 'note', v.note)
         from process_versions v join processes c on c.id = v.process_id where v.id = n.version_id) end as published
     from notices n left join people p on p.id = n.by_id
     where n.person_id = :me and (:before::timestamptz is null or (n.at, n.id) < (:before::timestamptz, :place::bigint)) and ${seen}
     order by n.at desc, n.id desc limit :limit`,
    { ...parameters, limit, before: cursor?.[0], place: cursor?.[1] },
  );
}

/** More are not counted. */
const MOST_COUNTED = 100;

export async function countUnread(connection: Connection, person: Person): Promise<number> {
  const { seen, parameters } = seenBy(person);
  const [row] = await sql<{ unread: number }>(
    connection,
    `select count(*)::int as unread from (select from notices n where n.person_id = :me and n.read_at is null and ${seen} limit ${MOST_COUNTED}) unread`,
    parameters,
  );
  return row?.unread ?? 0;
}

/** Notices of a person are read: those that are named, or all. */
export const markRead = (
  tx: EntityManager,
  person: string,
  ids: readonly string[] | undefined,
  now: number,
): Promise<unknown> =>
  sql(
    tx,
    `update notices set read_at = :now where person_id = :person and read_at is null and (:ids::bigint[] is null or id = any(:ids::bigint[]))`,
    { person, now: at(now), ids: ids && asArray(ids) },
  );

/** How many open deals of a process are theirs. */
export async function countOwn(
  connection: Connection,
  person: string,
  processes: readonly ProcessId[],
): Promise<ReadonlyMap<string, number>> {
  if (processes.length === 0) return new Map();
  const rows = await sql<{ process: string; deals: number }>(
    connection,
    `select process_id as process, count(*)::int as deals from deals where owner_id = :person and status = 'open' and process_id = any(:processes::uuid[]) group by process_id`,
    { person, processes: asArray(processes) },
  );
  return new Map(rows.map(({ process, deals }) => [process, deals]));
}

export const findWatchers = (connection: Connection, deal: DealId): Promise<{ id: string; name: string }[]> =>
  sql(
    connection,
    `select p.id, p.name from watchers w join people p on p.id = w.person_id where w.deal_id = :deal and p.active order by p.name`,
    { deal },
  );

/** Tells all who have open deals of a process that another version of it is live. */
export const tellPublish = (
  tx: EntityManager,
  {
    process,
    version,
    by,
    now,
  }: { readonly process: ProcessId; readonly version: string; readonly by: string; readonly now: number },
): Promise<unknown> =>
  sql(
    tx,
    `insert into notices (person_id, kind, version_id, about, by_id, at)
     select p.id, 'published', :version::uuid, 'published ' || :process::text, :by::uuid, :now::timestamptz from people p
     where p.active and p.id <> :by::uuid and exists (select from deals d where d.owner_id = p.id and d.process_id = :process::uuid and d.status = 'open' offset 0)
     on conflict (person_id, about) where read_at is null do update set version_id = excluded.version_id, by_id = excluded.by_id, at = excluded.at, times = notices.times + 1, mailed_at = null`,
    { process, version, by, now: at(now) },
  );
