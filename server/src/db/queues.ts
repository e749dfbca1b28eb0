import PgBoss from 'pg-boss';

export const JOBS_SCHEMA = 'jobs';

/** Long work that is to begin. */
export const WORK_QUEUE = 'long-work';

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
  await boss.createQueue(WORK_QUEUE);
  await boss.stop({ graceful: false, wait: true });
}
