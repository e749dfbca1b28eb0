import type { Role } from '@ladder/contract';
import type { StageId } from '@ladder/core';
import {
  DOCUMENT_FORMAT,
  type Field,
  foldText,
  type ProcessDocument,
  type Requirement,
  type Stage,
  USUAL_OUTCOMES,
} from '@ladder/core';
import { hash } from '@node-rs/argon2';
import type { Config } from '../config.ts';
import { type RunningServer, startServer } from '../server.ts';
import { startThreads } from '../threads.ts';
import { Client } from './client.ts';
import { DAY, type MovableClock, movableClock } from './movableClock.ts';
import { asOwner, createTestDatabase, makeTemplate, type TestDatabase } from './testDatabase.ts';

export const PASSWORD = 'a long password';
const id = (kind: number, place: number): string => `01900000-0000-7000-8000-0000000${kind}000${place}`;
export const TEAMS = { north: id(1, 1), south: id(1, 2) };
export const PEOPLE: Readonly<Record<string, { id: string; name: string; role: Role; teams: readonly string[] }>> = {
  maren: { id: id(2, 1), name: 'Maren Holt', role: 'administrator', teams: [] },
  tomas: { id: id(2, 2), name: 'Tomas Verhey', role: 'manager', teams: [TEAMS.north, TEAMS.south] },
  priya: { id: id(2, 3), name: 'Priya Nandan', role: 'seller', teams: [TEAMS.north] },
  bea: { id: id(2, 4), name: 'Bea Ferrant', role: 'seller', teams: [TEAMS.south] },
  lena: { id: id(2, 5), name: 'Lena Ros', role: 'viewer', teams: [] },
};
export const FIELDS: readonly Field[] = [
  { id: 'area', name: 'Glazed area', holder: 'deal', type: 'number', unit: 'm²', min: 0 },
  {
    id: 'crop',
    name: 'Crop',
    holder: 'deal',
    type: 'choice',
    choices: [
      { id: 'tomatoes', name: 'Tomatoes' },
      { id: 'herbs', name: 'Herbs' },
    ],
  },
  { id: 'paid', name: 'Deposit paid', holder: 'deal', type: 'yes_no' },
  { id: 'credit', name: 'Credit checked', holder: 'customer', type: 'yes_no' },
];

export const stage = (stageId: string, name: string, more: Partial<Stage> = {}): Stage => ({
  id: stageId as StageId,
  name,
  purpose: '',
  chance: 50,
  target: { days: 10, counting: 'calendar' },
  idleDays: null,
  enter: [],
  leave: [],
  checklist: [],
  steps: [],
  arrival: [],
  ...more,
});
export const filled = (requirement: string, field: string, level: 'hold' | 'flag' = 'hold'): Requirement => ({
  id: requirement,
  level,
  binds: 'must_stay',
  kind: 'field',
  field,
});
const atLeast200: Requirement = {
  id: 'r1',
  level: 'hold',
  binds: 'at_move',
  kind: 'criterion',
  criterion: { kind: 'at_least', left: { of: 'field', field: 'area' }, right: { of: 'value', value: 200 } },
};

const PAID: Requirement = {
  id: 'r4',
  level: 'hold',
  binds: 'at_move',
  kind: 'criterion',
  criterion: { kind: 'equals', left: { of: 'field', field: 'paid' }, right: { of: 'value', value: true } },
};

/** Three stages, each with something to ask. */
export const DOCUMENT: ProcessDocument = {
  format: DOCUMENT_FORMAT,
  name: 'Builds',
  purpose: '',
  kind: 'deal',
  currency: 'GBP',
  sections: [{ id: 'main', name: 'Deal', fields: ['customer', 'value', 'close_date', 'area', 'crop', 'paid'] }],
  skips: 'hold',
  returns: 'flag',
  stages: [
    stage('brief', 'Site brief', {
      chance: 10,
      checklist: [{ id: 'called', text: 'Brief call held', need: 'must', level: 'hold', afterReturn: 'keep' }],
    }),
    stage('survey', 'Survey', { enter: [atLeast200, filled('r2', 'crop', 'flag')] }),
    stage('proposal', 'Proposal', { enter: [filled('r3', 'value')] }),
  ],
  taskSets: [],
  outcomes: USUAL_OUTCOMES.deal.map((outcome) =>
    outcome.counts === 'won' ? { ...outcome, requirements: [PAID] } : outcome,
  ),
};

export interface TestServer {
  readonly server: RunningServer;
  readonly database: TestDatabase;
  readonly clock: MovableClock;
  readonly process: string;
  /** A client signed in as one of PEOPLE, anew as the clock goes on. */
  readonly as: (name: string) => Promise<Client>;
  readonly stop: () => Promise<void>;
}

/** Those of all tests that run in one process: one takes seconds to load. */
export const THREADS = startThreads(0);

/** How a test's server is told to run: on a port of its own, silent, its sessions as long as a test moves the clock. */
export const testConfig = ({ serverUrl }: TestDatabase, more: Partial<Config> = {}): Config => ({
  host: '127.0.0.1',
  port: 0,
  databaseUrl: serverUrl,
  webRoot: null,
  logLevel: 'silent',
  trustedProxies: [],
  sessionIdleMs: 14 * DAY,
  documentMostBytes: 25_000_000,
  mail: { smtpUrl: null, from: 'Dusty Ladder <ladder@test.example>' },
  ...more,
});

const COMPANY = 'ladder_company';

/** A server on a database of its own, with a small company and one published process. */
export async function startTestServer(): Promise<TestServer> {
  await makeTemplate(COMPANY, makeCompany);
  const database = await createTestDatabase(COMPANY);
  const clock = movableClock();
  const server = await startServer(testConfig(database), clock, THREADS);
  const clients = new Map<string, Promise<Client>>();
  const as = (name: string): Promise<Client> => {
    const week = `${name} ${Math.floor(clock.now() / (7 * DAY))}`;
    const known = clients.get(week) ?? signInTo(server, name);
    clients.set(week, known);
    return known;
  };
  const { rows } = await asOwner(database, 'select id from processes');
  const stop = async (): Promise<void> => {
    await server.stop();
    await database.drop();
  };
  return { server, database, clock, process: rows[0].id, as, stop };
}

const signInTo = ({ url }: RunningServer, name: string): Promise<Client> =>
  Client.signIn(url, `${name}@test.example`, PASSWORD);

async function makeCompany(database: TestDatabase): Promise<void> {
  await loadCompany(database);
  // Threads of its own end with it: nothing stays connected.
  const server = await startServer(testConfig(database), movableClock());
  try {
    await publishFirst(await signInTo(server, 'maren'), DOCUMENT);
  } finally {
    await server.stop();
  }
}

async function loadCompany(database: TestDatabase): Promise<void> {
  await asOwner(database, `insert into organisation values (1, 'Test', 'Europe/London', 'GBP', false)`);
  const passwordHash = await hash(PASSWORD, { memoryCost: 1024, timeCost: 1 });
  const teams = Object.entries(TEAMS).map(([name, team]) => ({ id: team, name, name_fold: name }));
  await asOwner(database, `insert into teams select * from jsonb_populate_recordset(null::teams, $1)`, [
    JSON.stringify(teams),
  ]);
  const people = Object.entries(PEOPLE).map(([name, { teams: _teams, ...person }]) => ({
    ...person,
    email: `${name}@test.example`,
    email_fold: `${name}@test.example`,
    title: '',
    password_hash: passwordHash,
    active: true,
  }));
  await asOwner(database, `insert into people select * from jsonb_populate_recordset(null::people, $1)`, [
    JSON.stringify(people),
  ]);
  const members = Object.values(PEOPLE).flatMap((person) =>
    person.teams.map((team) => ({ person_id: person.id, team_id: team })),
  );
  await asOwner(database, `insert into team_members select * from jsonb_populate_recordset(null::team_members, $1)`, [
    JSON.stringify(members),
  ]);
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
  await asOwner(database, `insert into fields select * from jsonb_populate_recordset(null::fields, $1)`, [
    JSON.stringify(fields),
  ]);
}

/** Begins a process with a document and publishes it, as an administrator would. */
export async function publishFirst(administrator: Client, document: ProcessDocument): Promise<string> {
  const { body } = await administrator.post(
    '/processes',
    { name: document.name, kind: document.kind, currency: document.currency, firstStage: 'x' },
    201,
  );
  const process = String(body.id);
  await saveAndPublish(administrator, process, document);
  return process;
}

/** Saves a document as the draft and publishes it; open deals move over at once unless told otherwise. */
export async function saveAndPublish(
  administrator: Client,
  process: string,
  document: ProcessDocument,
  how: object = {},
): Promise<void> {
  const draft = await administrator.get(`/processes/${process}/draft`);
  const saved = await administrator.send('PUT', `/processes/${process}/draft`, { document }, 200, {
    'If-Match': `"${draft.body.revision}"`,
  });
  await administrator.send(
    'POST',
    `/processes/${process}/draft/publish`,
    { deals: 'move_over', graceDays: 0, transfers: {}, ...how },
    200,
    { 'If-Match': `"${saved.body.revision}"` },
  );
}
