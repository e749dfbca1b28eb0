import type { Context } from './context.ts';
import { at, sql } from './db/sql.ts';
import { makeCheckpoint } from './journal/checkpoint.ts';

const EVERY_MS = 10 * 60_000;
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

/** What is kept for a time only, and for how long after the instant in its column. */
const KEPT: readonly { readonly statement: string; readonly keptMs: number }[] = [
  { statement: 'delete from sessions where expires_at < :before', keptMs: 0 },
  { statement: 'delete from idempotency_keys where created_at < :before', keptMs: DAY_MS },
  { statement: 'delete from sign_in_tries where began_at < :before', keptMs: HOUR_MS },
  {
    statement: `delete from import_chunks c using imports i where i.id = c.import_id and i.state in ('uploaded', 'failed') and i.uploaded_at < :before`,
    keptMs: DAY_MS,
  },
  {
    statement: `delete from imports where state = 'uploaded' and uploaded_at < :before and not exists (select from import_chunks c where c.import_id = imports.id)`,
    keptMs: DAY_MS,
  },
  {
    statement: 'delete from import_bad_rows b using imports i where i.id = b.import_id and i.uploaded_at < :before',
    keptMs: 90 * DAY_MS,
  },
  {
    statement: 'delete from import_chunks c using imports i where i.id = c.import_id and i.uploaded_at < :before',
    keptMs: 90 * DAY_MS,
  },
];

/** Throws away what has had its time. */
export async function keepHouse(context: Context): Promise<void> {
  const now = context.clock.now();
  for (const { statement, keptMs } of KEPT) await sql(context.dataSource, statement, { before: at(now - keptMs) });
}

/** Throws away what is old and makes a checkpoint of the journal, at the start and then now and again; what fails is tried again the next time. */
export function startHousekeeping(context: Context): { readonly stop: () => Promise<void> } {
  const run = (): Promise<void> =>
    keepHouse(context)
      .then(async () => void (await makeCheckpoint(context)))
      .catch((error) => context.log.warn({ err: error }, 'housekeeping did not come to its end'));
  let last = run();
  const timer = setInterval(() => {
    last = run();
  }, EVERY_MS);
  timer.unref();
  return {
    stop: async () => {
      clearInterval(timer);
      await last;
    },
  };
}
