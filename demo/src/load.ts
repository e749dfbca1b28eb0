import {
  BUILT_IN_FIELDS,
  catalogueOf,
  changedRequirements,
  foldText,
  type HouseRules,
  MONDAY_TO_FRIDAY,
  NO_HOUSE_RULES,
  type ProcessDocument,
  type Publish,
  type Setting,
} from '@ladder/core';
import { at, sql } from '@ladder/server/db/sql.ts';
import { writeDeals } from '@ladder/server/deals/writeDeals.ts';
import { DEMO_PASSWORD } from '@ladder/server/session/session.ts';
import { hash } from '@node-rs/argon2';
import type { DataSource, EntityManager } from 'typeorm';
import { FIELDS } from './company/fields.ts';
import { NEW_BUILD, NEW_BUILD_FIRST } from './company/newBuild.ts';
import { ADMINISTRATOR, PEOPLE, TEAMS } from './company/people.ts';
import { REASONS } from './company/reasons.ts';
import { RETROFIT } from './company/retrofit.ts';
import { type Book, generateBook } from './generator/generateBook.ts';
import type { SimulatedProcess } from './generator/simulateDeal.ts';
import { seededRandom } from './random.ts';

const DAY = 86_400_000;
const SEED = 20_241;
const ZONE = 'Europe/London';
const CALENDAR = '01900000-0000-7000-8000-000000030001';
const BATCH = 100;

export const PROCESS_IDS = {
  newBuild: '01900000-0000-7000-8000-000000040001',
  retrofit: '01900000-0000-7000-8000-000000040002',
} as const;
const VERSION_IDS = {
  newBuildFirst: '01900000-0000-7000-8000-000000050001',
  newBuild: '01900000-0000-7000-8000-000000050002',
  retrofit: '01900000-0000-7000-8000-000000050003',
} as const;

/** How large a company to make. */
export interface DemoSize {
  readonly deals: number;
}

/** Loads Hollin & Marsh, anchored on `now`, in one transaction. Leaves a database that holds anything alone. */
export async function loadDemo(
  dataSource: DataSource,
  now: number,
  size: DemoSize,
): Promise<{ open: number; closed: number } | null> {
  return dataSource.transaction(async (tx) => {
    const [{ used } = { used: true }] = await sql<{ used: boolean }>(
      tx,
      `select exists (select from organisation) or exists (select from people) as used`,
    );
    if (used) return null;
    const processes = simulatedProcesses(now);
    const book = generateBook(seededRandom(SEED), processes, size.deals, now);
    await loadCompany(tx);
    await loadProcesses(tx, now);
    await loadBook(tx, book);
    const open = book.histories.filter(({ deal }) => deal.status.state === 'open').length;
    return { open, closed: book.histories.length - open };
  });
}

const newBuildRules = (now: number): HouseRules => ({
  ...NO_HOUSE_RULES,
  past_target: { level: 'flag', since: now - 730 * DAY },
  close_date_past: { level: 'flag', since: now - 300 * DAY },
});
const retrofitRules = (now: number): HouseRules => ({
  ...NO_HOUSE_RULES,
  past_target: { level: 'flag', since: now - 730 * DAY },
  idle: { level: 'flag', since: now - 200 * DAY },
});

function simulatedProcesses(now: number): readonly [SimulatedProcess, SimulatedProcess] {
  const setting = (version: string, document: ProcessDocument, houseRules: HouseRules): Setting => ({
    version,
    document,
    houseRules,
    catalogue: catalogueOf([...BUILT_IN_FIELDS, ...FIELDS]),
    publishes: document === NEW_BUILD ? [newBuildPublish(now)] : [],
    reasons: REASONS,
    calendar: MONDAY_TO_FRIDAY,
    zone: ZONE,
    reportingCurrency: 'GBP',
    rateOf: () => undefined,
  });
  const rules = newBuildRules(now);
  return [
    {
      id: PROCESS_IDS.newBuild,
      setting: setting(VERSION_IDS.newBuild, NEW_BUILD, rules),
      lossByStage: [0.2, 0.22, 0.22, 0.18, 0.26, 0.04],
      older: { setting: setting(VERSION_IDS.newBuildFirst, NEW_BUILD_FIRST, rules), until: publishedAt(now) },
    },
    {
      id: PROCESS_IDS.retrofit,
      setting: setting(VERSION_IDS.retrofit, RETROFIT, retrofitRules(now)),
      lossByStage: [0.16, 0.18, 0.2, 0.22, 0.12],
      older: null,
    },
  ];
}

/** The newer version of New glasshouse build went live about twelve weeks ago, with two weeks of grace. */
const publishedAt = (now: number): number => now - 84 * DAY;
const newBuildPublish = (now: number): Publish => ({
  version: VERSION_IDS.newBuild,
  graceUntil: publishedAt(now) + 14 * DAY,
  changed: { [VERSION_IDS.newBuildFirst]: changedRequirements(NEW_BUILD_FIRST, NEW_BUILD) },
});

async function loadCompany(tx: EntityManager): Promise<void> {
  await sql(
    tx,
    `insert into organisation (id, name, time_zone, currency, demo) values (1, 'Hollin & Marsh Glasshouses', :zone, 'GBP', true)`,
    { zone: ZONE },
  );
  await sql(tx, `insert into calendars (id, name, working_weekdays) values (:id, 'Monday to Friday', '{1,2,3,4,5}')`, {
    id: CALENDAR,
  });
  await sql(tx, `insert into teams select * from jsonb_populate_recordset(null::teams, :rows)`, {
    rows: TEAMS.map(({ id, name }) => ({ id, name, name_fold: foldText(name) })),
  });
  const password_hash = await hash(DEMO_PASSWORD);
  const people = PEOPLE.map(({ teams: _teams, ...person }) => ({
    ...person,
    email_fold: foldText(person.email),
    password_hash,
    active: true,
  }));
  await sql(tx, `insert into people select * from jsonb_populate_recordset(null::people, :people)`, { people });
  const members = PEOPLE.flatMap(({ id, teams }) => teams.map((team) => ({ person_id: id, team_id: team })));
  await sql(tx, `insert into team_members select * from jsonb_populate_recordset(null::team_members, :members)`, {
    members,
  });
  const fields = FIELDS.map((field, place) => ({
    id: field.id,
    holder: field.holder,
    type: field.type,
    name: field.name,
    name_fold: foldText(field.name),
    definition: field,
    searchable: false,
    place,
  }));
  await sql(tx, `insert into fields select * from jsonb_populate_recordset(null::fields, :fields)`, { fields });
}

async function loadProcesses(tx: EntityManager, now: number): Promise<void> {
  await loadProcess(tx, PROCESS_IDS.newBuild, NEW_BUILD, newBuildRules(now));
  await loadProcess(tx, PROCESS_IDS.retrofit, RETROFIT, retrofitRules(now));
  await loadVersion(
    tx,
    VERSION_IDS.newBuildFirst,
    PROCESS_IDS.newBuild,
    1,
    'superseded',
    NEW_BUILD_FIRST,
    now - 735 * DAY,
  );
  const { graceUntil: until, changed } = newBuildPublish(now);
  const grace = { until, changed };
  await loadVersion(tx, VERSION_IDS.newBuild, PROCESS_IDS.newBuild, 2, 'live', NEW_BUILD, publishedAt(now), grace);
  await loadVersion(tx, VERSION_IDS.retrofit, PROCESS_IDS.retrofit, 1, 'live', RETROFIT, now - 735 * DAY);
}

async function loadProcess(
  tx: EntityManager,
  id: string,
  document: ProcessDocument,
  houseRules: HouseRules,
): Promise<void> {
  const on = Object.fromEntries(Object.entries(houseRules).filter(([, rule]) => rule !== null));
  await sql(
    tx,
    `insert into processes (id, name, name_fold, kind, calendar_id, house_rules) values (:id, :name, :fold, :kind, :calendar, :on)`,
    {
      id,
      name: document.name,
      fold: foldText(document.name),
      kind: document.kind,
      calendar: CALENDAR,
      on,
    },
  );
  const reasons = REASONS.map((reason, place) => ({
    process_id: id,
    id: reason.id,
    outcome: reason.outcome,
    name: reason.name,
    asks_follow_up: reason.followUp === 'asked',
    withdrawn: false,
    place,
  }));
  await sql(tx, `insert into process_reasons select * from jsonb_populate_recordset(null::process_reasons, :reasons)`, {
    reasons,
  });
}

async function loadVersion(
  tx: EntityManager,
  id: string,
  process: string,
  number: number,
  state: string,
  document: ProcessDocument,
  published: number,
  grace: Omit<Publish, 'version' | 'graceUntil'> | null = null,
): Promise<void> {
  await sql(
    tx,
    `insert into process_versions (id, process_id, number, state, document, fields, grace, revision, saved_at, published_at, published_by)
     values (:id, :process, :number, :state, :document, :fields, :grace, 1, :published, :published, :by)`,
    { id, process, number, state, document, fields: FIELDS, grace, published: at(published), by: ADMINISTRATOR.id },
  );
}

async function loadBook(tx: EntityManager, { customers, histories }: Book): Promise<void> {
  const credit = new Map(histories.map(({ deal }) => [String(deal.values.customer), deal.partyValues]));
  const rows = customers.map(({ id, name, kind }) => ({
    id,
    name,
    name_fold: foldText(name),
    values: { customer_kind: kind, ...credit.get(id) },
  }));
  await sql(tx, `insert into customers select * from jsonb_populate_recordset(null::customers, :rows)`, { rows });
  const catalogue = catalogueOf([...BUILT_IN_FIELDS, ...FIELDS]);
  for (let place = 0; place < histories.length; place += BATCH) {
    const writes = histories
      .slice(place, place + BATCH)
      .map(({ deal, records }) => ({ before: null, change: { deal, records } }));
    await writeDeals(tx, writes, catalogue);
  }
}
