import type { processes, TypeOf } from '@ladder/contract';
import type { Field, HouseRules, ProcessId, StoredDocument, VersionId } from '@ladder/core';
import { seesAll } from '../../access/dealAccess.ts';
import { openDealsOf, visibleDeals } from '../../access/repository.ts';
import { kept } from '../../db/keepingClient.ts';
import { asArray, at, type Connection, sql } from '../../db/sql.ts';
import type { Person } from '../../session/person.ts';

export type VersionName = TypeOf<typeof processes.versionName>;
export type VersionView = TypeOf<typeof processes.version>;

/** *In use* while open deals follow it, then *past* (S26). */
const COLUMNS = `v.id, v.number, v.published_at as published, p.name as "publishedBy",
  case when v.state in ('draft', 'live') then v.state
    when exists (select from deals o where o.process_id = v.process_id and o.version_id = v.id and o.status = 'open') then 'in_use' else 'past' end as state`;
const FROM = `process_versions v left join people p on p.id = v.published_by`;

type Row<View> = Omit<View, 'publishedAt'> & { readonly published: Date | null };

const withInstant = <R extends Row<object>>({ published, ...row }: R) => ({
  ...row,
  publishedAt: published?.toISOString() ?? null,
});

/** A version's number and state. */
export async function versionName(connection: Connection, id: VersionId): Promise<VersionName> {
  const [row] = await sql<Row<VersionName>>(connection, kept(`select ${COLUMNS} from ${FROM} where v.id = :id`), {
    id,
  });
  if (!row) throw new Error(`There is no version ${id}`);
  return withInstant(row);
}

/** The version of a process that is live, beside how many deals follow it. */
export async function liveVersionView(
  connection: Connection,
  process: ProcessId,
): Promise<Omit<VersionView, 'openDeals'> | null> {
  const [row] = await sql<Row<Omit<VersionView, 'openDeals'>>>(
    connection,
    `select ${COLUMNS}, v.note from ${FROM} where v.process_id = :process and v.state = 'live'`,
    { process },
  );
  return row ? withInstant(row) : null;
}

/** Of all open deals those alone are counted that stay on a version: the others follow the live one. */
const followedByAll = (staying: string): string => `staying as materialized (${staying}),
  followed as (
    select * from staying union all
    select p.id, null, ${openDealsOf('p.id')} - coalesce((select sum(open_deals)::int from staying s where s.process_id = p.id), 0)
    from unnest(:processes::uuid[]) as p (id)
  )`;

/** All versions of processes, newest first, each with the open deals that follow it, of those that the person may see. */
export async function versionsOf(
  connection: Connection,
  person: Person,
  processes: readonly ProcessId[],
): Promise<readonly (VersionView & { readonly process: ProcessId })[]> {
  const seen = visibleDeals(person);
  const counted = (narrowed: string): string => `
    select d.process_id, d.version_id, count(*)::int as open_deals from deals d
    where d.process_id = any(:processes::uuid[]) and d.status = 'open' and ${narrowed} group by 1, 2`;
  const rows = await sql<Row<VersionView> & { process: ProcessId }>(
    connection,
    `with ${seesAll(person) ? followedByAll(counted('d.version_id is not null')) : `followed as materialized (${counted(seen.condition)})`}
     select ${COLUMNS}, v.process_id as process, v.note,
       coalesce((select sum(open_deals)::int from followed f
         where f.process_id = v.process_id and (f.version_id = v.id or v.state = 'live' and f.version_id is null)), 0) as "openDeals"
     from ${FROM} where v.process_id = any(:processes::uuid[]) order by v.process_id, v.number desc`,
    { ...seen.parameters, processes: asArray(processes) },
  );
  return rows.map(withInstant);
}

/** The live version of a process, and whether the process takes new deals; null where it has none. */
export async function liveVersion(
  connection: Connection,
  process: ProcessId,
): Promise<{ readonly id: VersionId; readonly closed: boolean } | null> {
  const [live] = await sql<{ id: VersionId; closed: boolean }>(
    connection,
    `select v.id, p.closed_to_new as closed from process_versions v join processes p on p.id = v.process_id where v.process_id = :process and v.state = 'live'`,
    { process },
  );
  return live ?? null;
}

/** A version with what its process is by it. */
export interface VersionDocument {
  readonly version: VersionName;
  readonly document: StoredDocument;
}

type VersionDocumentRow = Row<VersionName> & Pick<VersionDocument, 'document'>;

const toVersionDocument = ({ document, ...version }: VersionDocumentRow): VersionDocument => ({
  version: withInstant(version),
  document,
});

/** The version of a process that was live at an instant that has gone by. */
export async function documentThen(
  connection: Connection,
  process: ProcessId,
  then: number,
): Promise<VersionDocument | null> {
  const [row] = await sql<VersionDocumentRow>(
    connection,
    kept(
      `select ${COLUMNS}, v.document from ${FROM} where v.process_id = :process and v.published_at <= :instant order by v.number desc limit 1`,
    ),
    { process, instant: at(then) },
  );
  return row ? toVersionDocument(row) : null;
}

/** A process with the version that is live, if one is. */
export interface ProcessWithLive {
  readonly name: string;
  readonly houseRules: Partial<HouseRules>;
  readonly live: VersionDocument | null;
}

export async function processWithLive(connection: Connection, process: ProcessId): Promise<ProcessWithLive | null> {
  const [row] = await sql<VersionDocumentRow & { readonly process: string; readonly rules: Partial<HouseRules> }>(
    connection,
    kept(
      `select asked.name as process, asked.house_rules as rules, live.* from processes asked
       left join lateral (select ${COLUMNS}, v.document from ${FROM} where v.process_id = asked.id and v.state = 'live') live on true
       where asked.id = :process`,
    ),
    { process },
  );
  if (!row) return null;
  const { process: name, rules: houseRules, ...live } = row;
  return { name, houseRules, live: live.id === null ? null : toVersionDocument(live) };
}

/** A version that somebody works by or on. */
export interface CurrentVersion {
  readonly process: { readonly id: ProcessId; readonly name: string };
  readonly state: 'draft' | 'live' | 'in_use';
  readonly number: number;
  readonly document: StoredDocument;
  /** Those that it was published with. */
  readonly fields: readonly Field[];
}

/** The live version and the draft of each process, and older ones that open deals follow. */
export const currentVersions = (connection: Connection): Promise<CurrentVersion[]> =>
  sql<CurrentVersion>(
    connection,
    `select json_build_object('id', p.id, 'name', p.name) as process, case when v.state in ('draft', 'live') then v.state else 'in_use' end as state,
       v.number, v.document, v.fields
     from process_versions v join processes p on p.id = v.process_id
     where v.state in ('draft', 'live') or exists (select from deals d where d.process_id = v.process_id and d.version_id = v.id and d.status = 'open')
     order by p.name_fold, p.id, v.number desc`,
  );
