import type { processes, TypeOf } from '@ladder/contract';
import type {
  DealId,
  Moment,
  ProcessId,
  PublishReach,
  Reason,
  StageId,
  Standing,
  StoredDocument,
  VersionId,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/repository.ts';
import { asArray, at, type Connection, sql } from '../db/sql.ts';
import { actorColumns } from '../deals/repository/actorColumns.ts';
import { SO_NOW } from '../deals/repository/openBook.ts';
import type { Person } from '../session/person.ts';

/** So many deals are judged at once: few enough that other answers come in between. */
export const BATCH = 50;

/** Ids of a process's open deals, in batches of a size that is judged at once. */
export async function* openDealBatches(connection: Connection, process: ProcessId): AsyncGenerator<readonly DealId[]> {
  for await (const deals of looks(connection, process, BATCH, `'surely'`, 'true', {})) yield deals.map(({ id }) => id);
}

/** An open deal, and whether a publish concerns it as far as its place and its findings tell. */
export interface LookedAt {
  readonly id: DealId;
  readonly concerned: 'no' | 'perhaps' | 'surely';
}

const AT_A_LOOK = 1_000;

/** The open deals of a process, many at a time: all, or those alone that stay on an older version where only they are concerned. */
export function lookAtOpenDeals(
  connection: Connection,
  process: ProcessId,
  reach: PublishReach,
  now: number,
): AsyncGenerator<readonly LookedAt[]> {
  const condition = reach.reach === 'none' ? STAYS : 'true';
  const stages = 'stages' in reach ? { stages: asArray(reach.stages) } : {};
  const requirements = 'requirements' in reach ? { requirements: asArray(reach.requirements), now: at(now) } : {};
  return looks(connection, process, AT_A_LOOK, CONCERNED[reach.reach], condition, { ...stages, ...requirements });
}

async function* looks(
  connection: Connection,
  process: ProcessId,
  limit: number,
  concerned: string,
  condition: string,
  parameters: Readonly<Record<string, unknown>>,
): AsyncGenerator<readonly LookedAt[]> {
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const deals = await sql<LookedAt>(
      connection,
      `with looked as materialized (
         select d.id from deals d where d.process_id = :process and d.status = 'open' and ${condition} and d.id > :after order by d.id limit :limit
       ) select d.id, ${concerned} as concerned from looked join deals d using (id) order by d.id`,
      { ...parameters, process, after, limit },
    );
    const last = deals.at(-1);
    if (!last) return;
    yield deals;
    after = last.id;
  }
}

/** Whoever stays on an older version is concerned by every publish that moves deals over. */
const STAYS = 'd.version_id is not null';

/** The limit keeps PostgreSQL from gathering the moves of all deals first. */
const CAME_BY = `(d.stage_id = any(:stages::text[]) or (
  select true from moves m where m.deal_id = d.id and (m.from_stage = any(:stages::text[]) or m.to_stage = any(:stages::text[]) or m.over_stages && :stages::text[]) limit 1) is not null)`;

/** How a deal was skipped or forced on stands for whatever it owes from that. */
const HAS_FINDING = `(select true from findings f where f.deal_id = d.id and f.closed_at > :now
  and (f.requirement = any(:requirements::text[]) or (f.origin = 'entry' and f.kind <> 'returned')) limit 1) is not null`;

const CONCERNED: Readonly<Record<PublishReach['reach'], string>> = {
  none: `'surely'`,
  stages: `case when ${STAYS} or d.attempt is not null or ${CAME_BY} then 'surely' else 'no' end`,
  requirements: `case when ${STAYS} or d.attempt is not null then 'surely' when not ${CAME_BY} then 'no' when ${HAS_FINDING} then 'surely' else 'perhaps' end`,
  all: `'surely'`,
};

/** How many open deals a process has, and how many of them stay on an older version. */
export async function countOpenDeals(
  connection: Connection,
  process: ProcessId,
): Promise<{ readonly open: number; readonly staying: number }> {
  const [row] = await sql<{ open: number; staying: number }>(
    connection,
    `select count(*)::int as open, count(version_id)::int as staying from deals where process_id = :process and status = 'open'`,
    { process },
  );
  return row ?? { open: 0, staying: 0 };
}

/**
 * Open deals that follow the process stay on a version from an instant on, all or those in some stages. Version and instant
 * are those of the publish that is being made.
 */
export async function letStay(
  tx: EntityManager,
  process: ProcessId,
  version: VersionId,
  since: Date,
  stages: readonly StageId[] | 'all',
): Promise<void> {
  const where = stages === 'all' ? {} : { stages: asArray(stages) };
  await sql(
    tx,
    `with stayed as (
       update deals set version_id = :version::uuid where process_id = :process and status = 'open' and version_id is null
         and ${stages === 'all' ? 'true' : 'stage_id = any(:stages::text[])'} returning id
     )
     insert into deal_stays (deal_id, version_id, from_at) select id, :version::uuid, :since from stayed`,
    { process, version, since, ...where },
  );
}

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
  readonly open_deals: number;
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

/** Processes that the person may see, by name, each with the open deals that they may see. */
export function findProcesses(
  connection: Connection,
  person: Person,
  limit: number,
  after: string | undefined,
): Promise<SummaryRow[]> {
  const seen = visibleDeals(person);
  return sql<SummaryRow>(
    connection,
    `select p.id, p.name, p.name_fold, p.kind, p.closed_to_new as closed, coalesce(l.document, d.document) as document, l.id as live, d.number as draft_number,
       d.saved_at as draft_saved,
       (select count(*)::int from deals d where d.process_id = p.id and d.status = 'open' and ${seen.condition}) as open_deals
     from processes p left join process_versions l on l.process_id = p.id and l.state = 'live'
     left join process_versions d on d.process_id = p.id and d.state = 'draft'
     where (:after::text is null or p.name_fold > :after) and (l.id is not null or :administrator) and p.id <> all(:hidden::uuid[]) order by p.name_fold limit :limit`,
    {
      ...seen.parameters,
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

/** How many open deals stand in each of these stages, the longest waiting first; those without any are left out. */
export const openDealsIn = (
  tx: EntityManager,
  processId: ProcessId,
  stages: readonly StageId[],
): Promise<{ id: StageId; openDeals: number }[]> =>
  sql(
    tx,
    `select d.stage_id as id, count(*)::int as "openDeals" from deals d
     where d.process_id = :processId and d.status = 'open' and d.stage_id = any(:stages::text[]) group by d.stage_id order by min(d.entered_at), d.stage_id`,
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

export interface StandingCount {
  readonly stage: StageId;
  readonly standing: Standing;
  readonly deals: number;
}

/** Open deals of a process by stage and standing. */
export const countStandings = (tx: EntityManager, process: ProcessId, now: number): Promise<StandingCount[]> =>
  sql(
    tx,
    `select d.stage_id as stage, d.standing, count(*)::int as deals from deal_states d
     where d.process_id = :process and d.status = 'open' and ${SO_NOW} group by 1, 2`,
    { process, now: at(now) },
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
