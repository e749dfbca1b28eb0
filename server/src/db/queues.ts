import PgBoss from 'pg-boss';

export const JOBS_SCHEMA = 'jobs';

/** Work that goes on behind a request. */
export const IMPORT_QUEUE = 'import-deals';

/** Makes the tables of the job queue under the migrating role, because the server's role may not (S40). */
export async function createQueues(url: string): Promise<void> {
  const boss = new PgBoss({
    connectionString: url,
    schema: JOBS_SCHEMA,
    migrate: true,
    supervise: false,
    schedule: false,
  });
  boss.on('error', (error) => {
    throw error;
  });
  await boss.start();
  await boss.createQueue(IMPORT_QUEUE);
  await boss.stop({ graceful: false, wait: true });
}
