import type { DataSource } from 'typeorm';
import { createDataSource } from './dataSource.ts';
import { grantToServer } from './grants.ts';
import { migrations } from './migrations/index.ts';
import { createQueues } from './queues.ts';

/** Brings a database up to date under the migrating role, and lets the server's role at it. Gives the migrations applied. */
export async function migrate(migrationUrl: string, serverRole: string): Promise<readonly string[]> {
  const dataSource = await createDataSource(migrationUrl, 2)
    .setOptions({ migrations: [...migrations], migrationsTransactionMode: 'each' })
    .initialize();
  try {
    const applied = await dataSource.runMigrations();
    if (applied.length > 0) await vacuumRewritten(dataSource);
    await createQueues(migrationUrl);
    await grantToServer(dataSource, serverRole);
    return applied.map(({ name }) => name);
  } finally {
    await dataSource.destroy();
  }
}

/**
 * Where a migration wrote a table anew, nothing is known of its pages: until they are gone through, lists read the table beside
 * their indexes.
 */
async function vacuumRewritten(dataSource: DataSource): Promise<void> {
  const rewritten = await dataSource.query<{ name: string }[]>(
    `select oid::regclass::text as name from pg_class
     where relkind = 'r' and relnamespace = 'public'::regnamespace and relpages > 0 and relallvisible = 0`,
  );
  for (const { name } of rewritten) await dataSource.query(`vacuum analyze ${name}`);
}
