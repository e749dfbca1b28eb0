import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { inject } from 'vitest';

export interface TestDatabase {
  readonly serverUrl: string;
  readonly ownerUrl: string;
  readonly drop: () => Promise<void>;
}

const named = (url: string, database: string): string =>
  Object.assign(new URL(url), { pathname: `/${database}` }).toString();

/** A fresh, migrated database for one test file; or an empty one, for tests of the migrations themselves. */
export async function createTestDatabase(template = 'ladder_template'): Promise<TestDatabase> {
  const name = `unit_${randomBytes(6).toString('hex')}`;
  await onCluster((client) => client.query(`create database ${name} template ${template}`));
  return {
    serverUrl: named(inject('serverUrl'), name),
    ownerUrl: named(inject('ownerUrl'), name),
    drop: () => onCluster((client) => client.query(`drop database ${name} with (force)`)),
  };
}

/** Makes a database that test databases are copies of, unless some test file has made it; nobody is connected to it after. */
export const makeTemplate = (name: string, fill: (database: TestDatabase) => Promise<void>): Promise<unknown> =>
  onCluster(async (client) => {
    await client.query(`select pg_advisory_lock(hashtext('${name}'))`);
    const { rowCount } = await client.query('select from pg_database where datname = $1', [name]);
    if (rowCount) return;
    const database = await createTestDatabase();
    await fill(database);
    await client.query(`alter database ${new URL(database.serverUrl).pathname.slice(1)} rename to ${name}`);
  });

async function onCluster(work: (client: pg.Client) => Promise<unknown>): Promise<void> {
  const client = new pg.Client({ connectionString: inject('ownerUrl') });
  await client.connect();
  try {
    await work(client);
  } finally {
    await client.end();
  }
}

/** Runs one statement under the role that owns the tables. */
export async function asOwner(
  database: TestDatabase,
  statement: string,
  values: unknown[] = [],
): Promise<pg.QueryResult> {
  const client = new pg.Client({ connectionString: database.ownerUrl });
  await client.connect();
  try {
    return await client.query(statement, values);
  } finally {
    await client.end();
  }
}
