import type { EntityManager } from 'typeorm';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { createDataSource } from '../db/dataSource.ts';
import { sql } from '../db/sql.ts';
import { newId } from '../ids.ts';
import { createLog } from '../log.ts';
import { Problem } from '../problems/problem.ts';
import { asOwner, createTestDatabase, type TestDatabase } from '../testing/testDatabase.ts';
import { askToCancel, findWork, insertWork } from './repository.ts';
import { runWork, type WorkPlace } from './runWork.ts';
import type { WorkInHand, WorkKind } from './workKind.ts';

/* Whatever becomes of a work, either all of it is there and said to be done, or nothing is there and it is said why. */

const NOW = Date.UTC(2026, 10, 24);
const PERSON = '01900000-0000-7000-8000-000000000001';
let database: TestDatabase;
let sources: Pick<WorkPlace, 'work' | 'telling' | 'apart'>;
beforeAll(async () => {
  database = await createTestDatabase();
  await asOwner(
    database,
    `insert into people (id, name, email, email_fold, role, password_hash) values ($1, 'P', 'p', 'p', 'administrator', '')`,
    [PERSON],
  );
  const [work, telling] = await Promise.all([
    createDataSource(database.serverUrl, 3, 300).initialize(),
    createDataSource(database.serverUrl, 2).initialize(),
  ]);
  sources = { work, telling, apart: telling };
});
afterAll(async () => {
  await sources.work.destroy();
  await sources.telling.destroy();
  await database.drop();
});
beforeEach(() => asOwner(database, `delete from long_work; delete from teams`));

const countTeams = async () =>
  (await asOwner(database, `select count(*)::int as teams from teams`)).rows[0].teams as number;
const begin = async (subject = 'rates'): Promise<string> => {
  const id = newId(NOW);
  const made = { id, kind: 'rate' as const, subject, request: { saw: 1 }, by: PERSON, total: 20 };
  expect(await insertWork(sources.telling, made, NOW)).toBe(true);
  return id;
};
const stateOf = async (id: string) => (await findWork(sources.telling, id)) ?? { state: 'gone' };

/** Runs a work of a kind that makes a team, then does as it is told. */
function run(id: string, does: (work: WorkInHand<object>) => Promise<void>): Promise<void> {
  const kind: WorkKind<object> = {
    kind: 'rate',
    run: async (tx, work) => {
      const team = newId(NOW);
      await sql(tx, `insert into teams values (:team::uuid, :name, :name)`, { team, name: team });
      await does(work);
      return 7;
    },
  };
  return runWork({ ...sources, kinds: [kind], log: createLog('silent') }, id, NOW);
}

it('what it did and that it is done are there together, and it is done once', async () => {
  const id = await begin();
  await run(id, async ({ progress, request, by }) => {
    expect([request, by]).toEqual([{ saw: 1 }, PERSON]);
    await progress(12);
    expect(await stateOf(id)).toMatchObject({ state: 'running', done: 12, total: 20, cancel: 'may' });
  });
  await run(id, async () => undefined);
  expect(await stateOf(id)).toMatchObject({ state: 'done', done: 20, deals: 7, problem: null, cancel: 'over' });
  expect(await countTeams()).toBe(1);
});

it('a step apart is done for good, and once it binds nobody cancels the rest', async () => {
  const id = await begin();
  const step = (does: (tx: EntityManager) => Promise<unknown>) => async (tx: EntityManager) => {
    const team = newId(NOW);
    await sql(tx, `insert into teams values (:team::uuid, :name, :name)`, { team, name: team });
    await does(tx);
  };
  await run(id, async ({ apart, bind }) => {
    await apart(step(bind));
    expect(await askToCancel(sources.telling, id)).toBe(false);
    expect(await stateOf(id)).toMatchObject({ state: 'running', cancel: 'over' });
    throw new Error('The rest went wrong');
  });
  expect(await stateOf(id)).toMatchObject({ state: 'failed' });
  expect(await countTeams()).toBe(1);
});

it('a step that would bind what was cancelled leaves nothing', async () => {
  const id = await begin();
  await run(id, async ({ apart, bind }) => {
    await askToCancel(sources.telling, id);
    await apart(bind);
  });
  expect(await stateOf(id)).toMatchObject({ state: 'cancelled' });
  expect(await countTeams()).toBe(0);
});

it('of two who take it up at once, one does it', async () => {
  const id = await begin();
  let inHand = 0;
  const meanwhile = () => run(id, async () => expect.unreachable());
  await run(id, async () => {
    inHand++;
    await meanwhile();
  });
  expect([inHand, await countTeams()]).toEqual([1, 1]);
});

it('a cancel stops it where it next says how far it is, or as it ends; nothing stays', async () => {
  for (const tellsOn of [true, false]) {
    const id = await begin();
    await run(id, async ({ progress }) => {
      await progress(1);
      await askToCancel(sources.telling, id);
      if (tellsOn) await progress(2);
    });
    expect(await stateOf(id)).toMatchObject({ state: 'cancelled', deals: null, cancel: 'over' });
  }
  expect(await countTeams()).toBe(0);
  const over = await begin();
  await run(over, async () => undefined);
  expect(await askToCancel(sources.telling, over)).toBe(false);
});

it('a cancel that was asked for before it began is heard', async () => {
  const id = await begin();
  await askToCancel(sources.telling, id);
  await run(id, async () => expect.unreachable());
  expect(await stateOf(id)).toMatchObject({ state: 'cancelled' });
});

it('a refusal is kept as it was said, an error as one; nothing stays', async () => {
  const refused = await begin();
  await run(refused, async () => {
    throw new Problem(422, 'Too late', { errors: [{ pointer: '/x', detail: 'Too late' }] });
  });
  expect(await stateOf(refused)).toMatchObject({
    state: 'failed',
    problem: { status: 422, detail: 'Too late', errors: [{ pointer: '/x' }] },
  });
  const broken = await begin();
  await run(broken, async () => {
    throw new TypeError('of undefined');
  });
  expect(await stateOf(broken)).toMatchObject({
    state: 'failed',
    problem: { status: 500, detail: expect.not.stringContaining('undefined') },
  });
  expect(await countTeams()).toBe(0);
});

it('what someone else holds, or a connection that ends, leaves it to be begun again', async () => {
  const id = await begin();
  const holding = sources.telling.createQueryRunner();
  await holding.startTransaction();
  await holding.query(`lock table rates in access exclusive mode`);
  await run(id, async () => {
    await sql(sources.work, `select from rates`);
  });
  await holding.rollbackTransaction();
  await holding.release();
  expect(await stateOf(id)).toMatchObject({ state: 'running' });
  expect((await asOwner(database, `select begun from long_work`)).rows).toEqual([{ begun: 0 }]);
  await run(id, async () => {
    await asOwner(
      database,
      `select pg_terminate_backend(pid) from pg_stat_activity where state = 'idle in transaction' and datname = current_database()`,
    );
  });
  expect([await stateOf(id), await countTeams()]).toMatchObject([{ state: 'running' }, 0]);
  await run(id, async () => undefined);
  expect([await stateOf(id), await countTeams()]).toMatchObject([{ state: 'done' }, 1]);
});

it('one subject is worked on by one work at a time, others beside it', async () => {
  const id = await begin('a');
  await begin('b');
  const second = { id: newId(NOW), kind: 'rate' as const, subject: 'a', request: {}, by: PERSON, total: null };
  expect(await insertWork(sources.telling, second, NOW)).toBe(false);
  await run(id, async () => undefined);
  expect(await insertWork(sources.telling, second, NOW)).toBe(true);
});

it('one that ends its thread each time is given up, and says so', async () => {
  const id = await begin();
  await asOwner(database, `update long_work set begun = 5`);
  await run(id, async () => expect.unreachable());
  expect(await stateOf(id)).toMatchObject({
    state: 'failed',
    problem: { detail: expect.stringContaining('several times') },
  });
});
