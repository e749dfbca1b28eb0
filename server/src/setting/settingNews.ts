import pg from 'pg';
import type { Context } from '../context.ts';
import { hearNews } from '../db/hearNews.ts';
import { every } from '../every.ts';
import { renewSettings } from './repository/settings.ts';

/** Where PostgreSQL tells that something was changed that settings are read from (migration 0039). */
const CHANNEL = 'settings';

/** After the connection was lost. */
const HEARD_AGAIN_MS = 1_000;

/**
 * Reads settings again as soon as they are changed, by whatever server, so that nobody who presses next waits for it. It is no
 * more than that: every answer goes by the marks of its own transaction, and news that are late or lost make none wrong.
 */
export function hearOfSettings(context: Context, databaseUrl: string): { readonly stop: () => Promise<void> } {
  let client: pg.Client | undefined;
  const hearing = every(context, HEARD_AGAIN_MS, 'hearing of settings', async () => {
    client = new pg.Client({ connectionString: databaseUrl, keepAlive: true });
    await hearNews(client, CHANNEL, () => renewSettings(context.dataSource)).finally(() => client?.end());
  });
  return {
    stop: async () => {
      const stopped = hearing.stop();
      await client?.end();
      await stopped;
    },
  };
}
