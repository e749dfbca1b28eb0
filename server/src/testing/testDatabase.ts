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
export async function createTestDatabase(
  template: 'ladder_template' | 'template0' = 'ladder_template',
): Promise<TestDatabase> {
  const name = `unit_${randomBytes(6).toString('hex')}`;
  await onCluster(`create database ${name} template ${template}`);
  return {
    serverUrl: named(inject('serverUrl'), name),
    ownerUrl: named(inject('ownerUrl'), name),
    drop: () => onCluster(`drop database ${name} with (force)`),
  };
}

async function onCluster(statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: inject('ownerUrl') });
  await client.connect();
  await client.query(statement);
  await client.end();
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
