import type { BookPart } from '@ladder/contract';
import type { ProcessId, VersionId } from '@ladder/core';
import { MONDAY_TO_FRIDAY, NO_HOUSE_RULES } from '@ladder/core';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { createDataSource } from '../db/dataSource.ts';
import { startServer } from '../server.ts';
import { Client } from '../testing/client.ts';
import { movableClock } from '../testing/movableClock.ts';
import { asOwner, createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { DOCUMENT, FIELDS, THREADS, testConfig } from '../testing/testServer.ts';
import { loadBook } from './loadBook.ts';

let database: TestDatabase;
beforeEach(async () => {
  database = await createTestDatabase();
});
afterEach(() => database.drop());

const id = (place: number): string => `01900000-0000-7000-8000-00000000000${place}`;
const COMPANY: BookPart = {
  part: 'company',
  organisation: { name: 'Small', timeZone: 'Europe/London', currency: 'GBP', demo: false },
  calendars: [{ id: id(1), name: 'Plain', workingWeekdays: MONDAY_TO_FRIDAY.workingWeekdays }],
  teams: [{ id: id(2), name: 'North' }],
  documentKinds: [{ id: id(9), name: 'Report' }],
  templates: [{ id: id(8), name: 'Thanks', toField: null, subject: 'Thanks', body: 'Thank you for {deal.name}' }],
  people: [{ id: id(3), name: 'Ada', email: 'Ada@small.example', title: '', role: 'administrator', teams: [id(2)] }],
  password: 'a long password',
  fields: FIELDS,
  processes: [
    { id: id(4) as ProcessId, name: 'Builds', kind: 'deal', calendar: id(1), houseRules: NO_HOUSE_RULES, reasons: [] },
  ],
  versions: [
    {
      id: id(5) as VersionId,
      process: id(4) as ProcessId,
      number: 1,
      state: 'live',
      document: DOCUMENT,
      fields: FIELDS,
      grace: null,
      publishedAt: Date.UTC(2026, 0, 1),
      publishedBy: id(3),
    },
  ],
  customers: [{ id: id(6), name: 'Fennick', values: { credit: true } }],
};

const load = async (parts: readonly BookPart[]) => {
  const source = await createDataSource(database.serverUrl, 1).initialize();
  return loadBook(source, parts).finally(() => source.destroy());
};

it('a company that was loaded is worked with as any other', async () => {
  expect(await load([COMPANY, { part: 'end' }])).toEqual({ open: 0, closed: 0 });
  const server = await startServer(testConfig(database), movableClock(), THREADS);
  const ada = await Client.signIn(server.url, 'ada@small.example', 'a long password');
  const deal = { process: id(4), name: 'First', values: { customer: id(6), owner: id(3) } };
  expect((await ada.post('/deals', deal, 201)).body).toMatchObject({ name: 'First', version: { number: 1 } });
  await server.stop();
});

it('is loaded whole or not at all, and into an empty database only', async () => {
  await expect(load([COMPANY])).rejects.toThrow(/cut off/);
  expect((await asOwner(database, `select count(*)::int as people from people`)).rows[0].people).toBe(0);
  await load([COMPANY, { part: 'end' }]);
  expect(await load([COMPANY, { part: 'end' }])).toBeNull();
});
