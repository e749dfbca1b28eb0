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
} from '@ladder/core';
import { asArray, type Connection, sql } from '../db/sql.ts';
import { RATES_AS_JSON, type RateRow, rateTable } from './rates.ts';

interface SettingRow {
  readonly version: string;
  readonly process: string;
  readonly state: string;
  readonly document: StoredDocument;
  readonly fields: readonly Field[];
  readonly house_rules: Partial<HouseRules>;
  readonly calendar: Calendar;
  readonly reasons: readonly Reason[];
  readonly zone: string | null;
  readonly currency: string | null;
  readonly rates: readonly RateRow[];
  readonly publishes: readonly Publish[];
}

const CALENDAR = `json_build_object('workingWeekdays', c.working_weekdays, 'holidays', c.holidays)`;

/** The surroundings of every deal on these versions, by version id. */
export async function loadSettings(
  connection: Connection,
  versions: readonly string[],
): Promise<ReadonlyMap<string, Setting>> {
  const rows = await sql<SettingRow>(
    connection,
    `select v.id as version, v.process_id as process, v.state, v.document, v.fields, p.house_rules,
       ${CALENDAR} as calendar,
       (select coalesce(json_agg(json_build_object('id', id, 'outcome', outcome, 'name', name,
          'followUp', case when asks_follow_up then 'asked' else 'not_asked' end, 'withdrawn', case when withdrawn then 'yes' else 'no' end) order by place), '[]')
        from process_reasons where process_id = v.process_id) as reasons,
       o.time_zone as zone, o.currency,
       (${RATES_AS_JSON}) as rates,
       (select coalesce(json_agg(json_build_object('version', g.id, 'graceUntil', g.grace->'until', 'changed', g.grace->'changed') order by g.number), '[]')
        from process_versions g where g.process_id = v.process_id and g.grace is not null) as publishes
     from process_versions v join processes p on p.id = v.process_id join calendars c on c.id = p.calendar_id left join organisation o on true
     where v.id = any(:versions::uuid[])`,
    { versions: asArray([...new Set(versions)]) },
  );
  return new Map(rows.map((row) => [row.version, toSetting(row)]));
}

/** The calendar that a process counts its working days by. */
export async function calendarOf(connection: Connection, process: string): Promise<Calendar> {
  const [row] = await sql<{ calendar: Calendar }>(
    connection,
    `select ${CALENDAR} as calendar from processes p join calendars c on c.id = p.calendar_id where p.id = :process`,
    { process },
  );
  return row?.calendar ?? MONDAY_TO_FRIDAY;
}

/** The surroundings of one version. */
export async function loadSetting(connection: Connection, version: string): Promise<Setting> {
  const setting = (await loadSettings(connection, [version])).get(version);
  if (!setting) throw new Error(`There is no version ${version}`);
  return setting;
}

function toSetting(row: SettingRow): Setting {
  return {
    version: row.version,
    document: readDocument(row.document),
    catalogue: fullCatalogue(row.fields),
    houseRules: { ...NO_HOUSE_RULES, ...row.house_rules },
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
