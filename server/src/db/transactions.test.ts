import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { sql } from './sql.ts';
import { goOnWithout, onceCommitted, retried } from './transactions.ts';

let test: TestServer;
beforeAll(async () => {
  test = await startTestServer();
});
afterAll(() => test.stop());

const added = async (last: string): Promise<{ told: unknown; there: boolean }> => {
  const { dataSource } = test.server.context;
  const team = randomUUID();
  const told = await retried(dataSource, async (tx) => {
    await sql(tx, 'insert into teams values (:team::uuid, :name, :name)', { team, name: team });
    goOnWithout(tx, sql(tx, last, {}));
    return 'made';
  }).catch((error: unknown) => error);
  const there = await sql(dataSource, 'select id from teams where id = :team::uuid', { team });
  return { told, there: there.length > 0 };
};

it('is made whole or not at all by what is sent with its end, and tells why not', async () => {
  expect(await added('select 1')).toEqual({ told: 'made', there: true });
  const failed = await added('select 1 / 0');
  expect(failed.told).toMatchObject({ message: expect.stringContaining('division by zero') });
  expect(failed.there).toBe(false);
});

it('tells of what failed first, and of what was thrown for a reason of its own', async () => {
  const told = (behind: (ask: () => Promise<unknown>) => Promise<unknown>) =>
    retried(test.server.context.dataSource, async (tx) => {
      goOnWithout(tx, sql(tx, 'select 1 / 0'));
      await behind(() => sql(tx, 'select 1'));
    }).catch((error: Error) => error.message);
  expect(await told((ask) => ask())).toContain('division by zero');
  expect(await told(() => Promise.reject(new Error('Not as it stands')))).toBe('Not as it stands');
});

it('does what is to follow it once it is there, and not where it came to nothing', async () => {
  const done: string[] = [];
  const attempt = (name: string, last: string) =>
    retried(test.server.context.dataSource, async (tx) => {
      onceCommitted(tx, () => done.push(name));
      await sql(tx, last);
    }).catch(() => undefined);
  await attempt('made', 'select 1');
  await attempt('given up', 'select 1 / 0');
  expect(done).toEqual(['made']);
});
