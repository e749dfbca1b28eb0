import type { Client } from 'pg';

/** Does something at once and whenever a channel has news, of many at once no oftener than it can, until the connection ends. */
export async function hearNews(client: Client, channel: string, renew: () => Promise<void>): Promise<void> {
  let [isNew, isOver] = [true, false];
  let wake = (): void => undefined;
  client.on('notification', () => {
    isNew = true;
    wake();
  });
  for (const event of ['error', 'end'] as const)
    client.on(event, () => {
      isOver = true;
      wake();
    });
  await client.connect();
  await client.query(`listen ${channel}`);
  while (!isOver) {
    if (isNew) {
      isNew = false;
      await renew();
    } else
      await new Promise<void>((resolve) => {
        wake = resolve;
      });
  }
}
