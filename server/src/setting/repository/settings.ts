import type { ProcessId, VersionId } from '@ladder/core';
import {
  BUILT_IN_FIELDS,
  type Calendar,
  type Catalogue,
  catalogueOf,
  type Field,
  type HouseRules,
  MONDAY_TO_FRIDAY,
  NO_HOUSE_RULES,
  type Publish,
  type Reason,
  readDocument,
  type Setting,
  type StoredDocument,
  type TaskFates,
  USUAL_WAIVER_RIGHTS,
  type WaiverRights,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { ProcessVersionRow } from '../../db/entities/processVersion.ts';
import { kept } from '../../db/keepingClient.ts';
import { KeptBySource } from '../../db/keptBySource.ts';
import { asArray, type Connection, sql } from '../../db/sql.ts';
import { RATES_AS_JSON, type RateRow, rateTable } from './rates.ts';

interface SettingRow {
  readonly version: VersionId;
  readonly state: ProcessVersionRow['state'];
  readonly number: number;
  readonly published_at: Date | null;
  readonly published_by: string | null;
  readonly process_name: string;
  readonly document: StoredDocument;
  readonly fields: readonly Field[];
  readonly house_rules: Partial<HouseRules>;
  readonly task_fates: TaskFates;
  readonly waiver_rights: Partial<WaiverRights>;
  readonly calendar: Calendar;
  readonly reasons: readonly Reason[];
  readonly zone: string | null;
  readonly currency: string | null;
  readonly rates: readonly RateRow[];
  readonly publishes: readonly Publish[];
}

const CALENDAR = `json_build_object('workingWeekdays', c.working_weekdays, 'holidays', c.holidays)`;

/** What surrounds a deal, and how its process and version are called. */
export interface KnownSetting extends Setting {
  readonly about: {
    readonly process: string;
    readonly number: number;
    readonly state: ProcessVersionRow['state'];
    readonly publishedAt: Date | null;
    /** A person. */
    readonly publishedBy: string | null;
  };
}

/** A version's setting as it was read, with what the rows it was read from were then. */
interface KeptSetting {
  /** As of the very statement that read it. */
  readonly mark: string | null;
  readonly setting: KnownSetting;
}

const keptSettings = new KeptBySource<VersionId, KeptSetting>(200);

/**
 * What a setting is read from, told by the transactions that last wrote those rows: the version, its process, the calendar
 * and the organisation. Whoever changes anything else that a setting is made of touches one of them (`touchProcess`,
 * `touchOrganisation`). Null where this very transaction has written one, for it may go on to; and where there is no
 * organisation to touch.
 */
export const MARK = `case when fv.xmin = own.id or p.xmin = own.id or c.xmin = own.id or o.xmin = own.id or o.xmin is null then null
  else concat_ws(' ', fv.xmin, p.xmin, c.xmin, o.xmin) end`;

/** What the mark of a version `fv` is read from. */
export const MARKED = `join processes p on p.id = fv.process_id join calendars c on c.id = p.calendar_id left join organisation o on true
  cross join (select pg_current_xact_id_if_assigned()::xid as id) own`;

/** A version as its mark was looked at in the caller's own transaction. */
export interface MarkedVersion {
  readonly version: VersionId;
  readonly mark: string | null;
}

/** The mark of one version. */
export async function markOf(connection: Connection, version: VersionId): Promise<string | null> {
  const [row] = await readMarks(connection, [version]);
  return row?.mark ?? null;
}

const readMarks = (connection: Connection, versions: readonly VersionId[]): Promise<MarkedVersion[]> =>
  sql(
    connection,
    `select fv.id as version, ${MARK} as mark from process_versions fv ${MARKED} where fv.id = any(:versions::uuid[])`,
    { versions: asArray([...new Set(versions)]) },
  );

/** The surroundings of every deal on these versions, by version id. */
export async function loadSettings(
  connection: Connection,
  versions: readonly VersionId[],
): Promise<ReadonlyMap<VersionId, KnownSetting>> {
  const marked = await readMarks(connection, versions);
  return settingsOf(connection, marked);
}

/**
 * The same of versions whose marks were read with something else. Settings are kept by the server, and read again where any
 * of their rows was written since: what is kept is never older than what the marks were read with.
 */
export async function settingsOf(
  connection: Connection,
  marked: readonly MarkedVersion[],
): Promise<ReadonlyMap<VersionId, KnownSetting>> {
  const stale = marked.filter(
    ({ version, mark }) => mark === null || keptSettings.get(connection, version)?.mark !== mark,
  );
  const fresh = await readSettings(
    connection,
    stale.map(({ version }) => version),
  );
  const read = marked.map(({ version }) => {
    const [known, one] = [keptSettings.get(connection, version), fresh.get(version)];
    // Of two that read it at once the first is kept: all that was worked out for it is found by the very object.
    if (!one || (one.mark !== null && known?.mark === one.mark)) return known;
    if (one.mark !== null) keptSettings.keep(connection, version, one);
    return one;
  });
  return new Map(read.flatMap((one) => (one ? [[one.setting.version, one.setting] as const] : [])));
}

/** Reads again what is no longer as it is kept, and the versions that have gone live of those processes. */
export async function renewSettings(connection: Connection): Promise<void> {
  const versions = keptSettings.keys(connection);
  const live = await sql<{ id: VersionId }>(
    connection,
    `select distinct l.id from process_versions v join process_versions l on l.process_id = v.process_id and l.state = 'live' where v.id = any(:versions::uuid[])`,
    { versions: asArray(versions) },
  );
  await loadSettings(connection, [...new Set([...versions, ...live.map(({ id }) => id)])]);
}

async function readSettings(
  connection: Connection,
  versions: readonly VersionId[],
): Promise<ReadonlyMap<VersionId, KeptSetting>> {
  if (versions.length === 0) return new Map();
  const rows = await sql<SettingRow & Pick<KeptSetting, 'mark'>>(
    connection,
    `select fv.id as version, ${MARK} as mark, fv.state, fv.number, fv.published_at, fv.published_by, fv.document, fv.fields, p.name as process_name, p.house_rules, p.task_fates, p.waiver_rights,
       ${CALENDAR} as calendar,
       (select coalesce(json_agg(json_build_object('id', id, 'outcome', outcome, 'name', name,
          'followUp', case when asks_follow_up then 'asked' else 'not_asked' end, 'withdrawn', case when withdrawn then 'yes' else 'no' end) order by place), '[]')
        from process_reasons where process_id = fv.process_id) as reasons,
       o.time_zone as zone, o.currency,
       (${RATES_AS_JSON}) as rates,
       (select coalesce(json_agg(json_build_object('version', g.id, 'graceUntil', g.grace->'until', 'changed', g.grace->'changed') order by g.number), '[]')
        from process_versions g where g.process_id = fv.process_id and g.grace is not null) as publishes
     from process_versions fv ${MARKED} where fv.id = any(:versions::uuid[])`,
    { versions: asArray(versions) },
  );
  return new Map(rows.map((row) => [row.version, { mark: row.mark, setting: toSetting(row) }]));
}

/** Says that something of all settings of a process was changed, beside its own row. */
export const touchProcess = (tx: EntityManager, process: ProcessId): Promise<unknown> =>
  sql(tx, `update processes set closed_to_new = closed_to_new where id = :process`, { process });

/** Says the same of what all settings have in common, such as the rates. */
export const touchOrganisation = (tx: EntityManager): Promise<unknown> =>
  sql(tx, `update organisation set currency = currency`);

/** The calendar that a process counts its working days by. */
export async function calendarOf(connection: Connection, process: ProcessId): Promise<Calendar> {
  const [row] = await sql<{ calendar: Calendar }>(
    connection,
    kept(
      `select ${CALENDAR} as calendar from processes p join calendars c on c.id = p.calendar_id where p.id = :process`,
    ),
    { process },
  );
  return row?.calendar ?? MONDAY_TO_FRIDAY;
}

/** The surroundings of one version. */
export async function loadSetting(connection: Connection, version: VersionId): Promise<KnownSetting> {
  const setting = (await loadSettings(connection, [version])).get(version);
  if (!setting) throw new Error(`There is no version ${version}`);
  return setting;
}

function toSetting(row: SettingRow): KnownSetting {
  return {
    about: {
      process: row.process_name,
      number: row.number,
      state: row.state,
      publishedAt: row.published_at,
      publishedBy: row.published_by,
    },
    version: row.version,
    document: readDocument(row.document),
    catalogue: fullCatalogue(row.fields),
    houseRules: { ...NO_HOUSE_RULES, ...row.house_rules },
    taskFates: row.task_fates,
    waiverRights: { ...USUAL_WAIVER_RIGHTS, ...row.waiver_rights },
    publishes: row.publishes,
    reasons: row.reasons,
    calendar: row.calendar,
    zone: row.zone ?? 'Europe/London',
    reportingCurrency: row.currency ?? 'GBP',
    rateOf: rateTable(row.rates),
  };
}

/** A version's own fields beside the built-in ones. */
export const fullCatalogue = (fields: readonly Field[]): Catalogue => catalogueOf([...BUILT_IN_FIELDS, ...fields]);
