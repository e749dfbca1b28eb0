import { ensureDatabase, migrateDatabase } from './database.mjs';
import { startTestCluster } from './startTestCluster.mjs';

const TEMPLATE = 'ladder_template';

/** A cluster of its own for tests, with a migrated template that each test file copies, or makes the company of `testServer.ts` from. */
export default async function setup(project) {
  const cluster = await startTestCluster();
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: cluster.ownerUrl('postgres') });
  await client.connect();
  const left = await client.query(
    `select datname from pg_database where datname like 'unit_%' or datname like 'ladder_%'`,
  );
  for (const { datname } of left.rows) await client.query(`drop database ${datname} with (force)`);
  await client.end();
  await ensureDatabase(cluster, TEMPLATE);
  await migrateDatabase({
    DATABASE_URL: cluster.serverUrl(TEMPLATE),
    MIGRATION_DATABASE_URL: cluster.ownerUrl(TEMPLATE),
  });
  project.provide('ownerUrl', cluster.ownerUrl('postgres'));
  project.provide('serverUrl', cluster.serverUrl('postgres'));
  return () => cluster.stop();
}
