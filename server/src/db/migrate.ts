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
    await createQueues(migrationUrl);
    await grantToServer(dataSource, serverRole);
    return applied.map(({ name }) => name);
  } finally {
    await dataSource.destroy();
  }
}
