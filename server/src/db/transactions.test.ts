import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { sql } from './sql.ts';
import { goOnWithout, retried } from './transactions.ts';

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
