import type { processes, TypeOf } from '@ladder/contract';
import type { Moment, ProcessId, Reason, StageId, StoredDocument, VersionId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { asArray, at, type Connection, sql } from '../../db/sql.ts';
import { actorColumns } from '../../deals/repository/actorColumns.ts';
import type { Person } from '../../session/person.ts';

/** Writes down a publish as an event of the process; the database chains it. */
export async function recordPublish(
  tx: EntityManager,
  process: ProcessId,
  { happenedAt, recordedAt, by }: Moment,
  body: object,
): Promise<void> {
  await sql(
    tx,
    `insert into process_events (process_id, kind, happened_at, recorded_at, by_id, by_actor, body)
     values (:process, 'published', :happened, :recorded, :by_id, :by_actor, :body)`,
    { process, happened: at(happenedAt), recorded: at(recordedAt), ...actorColumns(by), body },
  );
}

export interface SummaryRow {
  readonly id: ProcessId;
  readonly name: string;
  readonly name_fold: string;
  readonly kind: 'deal' | 'lead';
  readonly closed: boolean;
  readonly document: StoredDocument | null;
  readonly live: string | null;
  readonly draft_number: number | null;
  readonly draft_saved: Date | null;
}

/** Drafts, and processes that were never published, are the administrators'. */
export const seesDrafts = (person: Person): boolean => person.role === 'administrator';

export async function loadReasons(connection: Connection, process: ProcessId): Promise<Reason[]> {
  return sql<Reason>(
    connection,
    `select id, outcome, name, case when asks_follow_up then 'asked' else 'not_asked' end as "followUp", case when withdrawn then 'yes' else 'no' end as withdrawn
     from process_reasons where process_id = :process order by outcome desc, place`,
    { process },
  );
}

/** Reasons that are left out are withdrawn, and kept where they were used (S26). */
export async function replaceReasons(tx: EntityManager, process: ProcessId, reasons: readonly Reason[]): Promise<void> {
  await sql(tx, `update process_reasons set withdrawn = true where process_id = :process`, { process });
  const rows = reasons.map(({ id, outcome, name, followUp, withdrawn }, place) => ({
    process_id: process,
    id,
    outcome,
    name,
    asks_follow_up: followUp === 'asked',
    withdrawn: withdrawn === 'yes',
    place,
  }));
  await sql(
    tx,
    `insert into process_reasons select * from jsonb_populate_recordset(null::process_reasons, :rows)
     on conflict (process_id, id) do update set name = excluded.name, asks_follow_up = excluded.asks_follow_up, withdrawn = excluded.withdrawn, place = excluded.place`,
    { rows },
  );
}

/** Processes that the person may see, by name. */
export function findProcesses(
  connection: Connection,
  person: Person,
  limit: number,
  after: string | undefined,
): Promise<SummaryRow[]> {
  return sql<SummaryRow>(
    connection,
    `select p.id, p.name, p.name_fold, p.kind, p.closed_to_new as closed, coalesce(l.document, d.document) as document, l.id as live, d.number as draft_number,
       d.saved_at as draft_saved
     from processes p left join process_versions l on l.process_id = p.id and l.state = 'live'
     left join process_versions d on d.process_id = p.id and d.state = 'draft'
     where (:after::text is null or p.name_fold > :after) and (l.id is not null or :administrator) and p.id <> all(:hidden::uuid[]) order by p.name_fold limit :limit`,
    {
      after,
      limit,
      hidden: asArray(person.hiddenProcesses ?? []),
      administrator: seesDrafts(person),
    },
  );
}

export type StageToLeave = TypeOf<typeof processes.preview>['removedStages'][number];

/** The stages of published versions that are none of these, each called what the newest version that has it calls it. */
export const otherStages = (
  tx: EntityManager,
  processId: ProcessId,
  stages: readonly StageId[],
): Promise<{ id: StageId; name: string }[]> =>
  sql(
    tx,
    `select s.stage->>'id' as id, (array_agg(s.stage->>'name' order by v.number desc))[1] as name
     from process_versions v, jsonb_array_elements(v.document->'stages') as s (stage)
     where v.process_id = :processId and v.state <> 'draft' and not s.stage->>'id' = any(:stages::text[]) group by 1`,
    { processId, stages: asArray(stages) },
  );

/** Versions from which deals come to a draft that is published: the live one, and those that open deals follow. */
export const versionsToComeFrom = (
  tx: EntityManager,
  processId: ProcessId,
  draft: string,
): Promise<{ id: VersionId; document: StoredDocument }[]> =>
  sql<{ id: VersionId; document: StoredDocument }>(
    tx,
    `select v.id, v.document from process_versions v where v.process_id = :processId and v.state <> 'draft' and v.id <> :draft
       and (v.state = 'live' or exists (select from deals d where d.version_id = v.id and d.status = 'open'))`,
    { processId, draft },
  );

/** Who has the draft of a process open. */
export const findPresent = (
  tx: EntityManager,
  process: ProcessId,
  since: Date,
): Promise<{ readonly id: string; readonly name: string }[]> =>
  sql(
    tx,
    `select p.id, p.name from draft_presence d join people p on p.id = d.person_id where d.process_id = :process and d.seen_at > :since order by p.name`,
    { process, since },
  );

interface LogRow {
  readonly id: string;
  readonly at: Date;
  readonly by: string;
  readonly what: 'settings' | 'dismissal';
  readonly before: unknown;
  readonly after: unknown;
}

/** What was changed of a process beside its versions, the latest first. */
export const findLogEntries = (
  connection: Connection,
  process: ProcessId,
  limit: number,
  before: number | undefined,
): Promise<LogRow[]> =>
  sql<LogRow>(
    connection,
    `select l.id::text, l.at, p.name as by, l.what, l.before, l.after from process_log l join people p on p.id = l.by_id
     where l.process_id = :process and (:before::bigint is null or l.id < :before) order by l.id desc limit :limit`,
    { process, before, limit },
  );

/** Names of teams by their id. */
export const teamNames = async (tx: EntityManager, ids: readonly string[]): Promise<ReadonlyMap<string, string>> => {
  const rows = await sql<{ id: string; name: string }>(tx, `select id, name from teams where id = any(:ids::uuid[])`, {
    ids: asArray(ids),
  });
  return new Map(rows.map(({ id, name }) => [id, name]));
};
