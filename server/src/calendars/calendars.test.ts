import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { WorkInHand } from '../longWork/workKind.ts';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, PEOPLE, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';
import { calendarToChange, calendarWork } from './recountWork.ts';

let test: TestServer;
let maren: Client;
/** By a process of its own, so that no other test's deals are counted. */
let works: { id: string } & Written;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  works = (await maren.post('/calendars', WORKS, 201)).body;
});
afterAll(() => test.stop());

interface Written {
  readonly name: string;
  readonly workingWeekdays: readonly number[];
  readonly holidays: readonly { readonly day: string; readonly name: string }[];
}
const WORKS: Written = { name: 'Works', workingWeekdays: [1, 2, 3, 4, 5], holidays: [] };
const working = (days: number) => ({ days, counting: 'working' }) as const;
const call = {
  id: 'call',
  name: 'Call them',
  instruction: '',
  who: { by: 'owner' },
  due: { ...working(3), after: 'arrival' },
  captures: [],
  results: [{ id: 'done', name: 'Done', captures: 'asked', leads: { to: 'finish' }, actions: [] }],
  byItself: null,
  afterReturn: 'keep',
} as const;
const begin = async (name: string): Promise<string> => {
  const process = await publishFirst(maren, {
    ...DOCUMENT,
    name,
    stages: [stage('only', 'Only', { target: working(5), steps: [call] as never })],
  });
  const { calendar } = (await maren.get(`/processes/${process}`)).body;
  await maren.send('PUT', `/processes/${process}/calendar`, { calendar: works.id, saw: calendar.id }, 200);
  return process;
};
const deal = async (process: string, name = 'Deal') =>
  (await maren.post('/deals', { process, name, values: {} }, 201)).body.id as string;
const daysOf = async (id: string) => {
  const { body } = await maren.get(`/deals/${id}`);
  return [body.visits.at(-1).moveOnDay, body.stepsAtHand[0]?.dueDay];
};
const change = async (parts: Partial<Written>, expected = 200) => {
  const { id, name, workingWeekdays, holidays } = works;
  const saw = { name, workingWeekdays, holidays };
  const { body } = await maren.send('PUT', `/calendars/${id}`, { ...saw, ...parts, saw }, expected);
  if (expected === 200) works = body;
  return body;
};
const THURSDAY = { day: '2026-11-26', name: 'Stocktaking' };

describe('a calendar', () => {
  it('is added and listed with the processes that go by it; what it cannot be is told at its place', async () => {
    const process = await begin('Listed');
    const { body } = await maren.get('/calendars');
    expect(body.items.find(({ id }: { id: string }) => id === works.id)).toEqual({
      ...works,
      processes: [{ id: process, name: 'Listed' }],
    });
    const refused = async (parts: object) =>
      (await maren.post('/calendars', { ...WORKS, name: 'Wrong', ...parts }, 400)).body.errors.map(
        ({ pointer }: { pointer: string }) => pointer,
      );
    expect(await refused({ name: 'Works' })).toEqual(['/name']);
    expect(await refused({ workingWeekdays: [] })).toEqual(['/workingWeekdays']);
    expect(await refused({ workingWeekdays: [1, 8] })).toEqual(['/workingWeekdays/1']);
    expect(await refused({ holidays: [THURSDAY, THURSDAY] })).toEqual(['/holidays/1/day']);
    expect(await refused({ holidays: [{ day: '2026-02-30', name: '' }] })).toEqual(['/holidays/0/day']);
    const tomas = await test.as('tomas');
    await tomas.get('/calendars', 403);
    await tomas.post('/calendars/effect', { what: 'calendar', calendar: works.id, ...WORKS }, 403);
  });

  it('tells which days it would move before it does, and moves those alone', async () => {
    const process = await begin('Moved');
    const id = await deal(process);
    const other = await deal(test.process);
    const otherDays = await daysOf(other);
    expect(await daysOf(id)).toEqual(['2026-12-01', '2026-11-27']);
    const asked = { what: 'calendar', calendar: works.id, ...WORKS, holidays: [THURSDAY] };
    expect((await maren.post('/calendars/effect', asked)).body).toEqual({
      moveOn: 1,
      steps: 1,
      tasks: 0,
      first: [
        { deal: { id, name: 'Deal' }, part: 'run', name: 'Call them', before: '2026-11-27', after: '2026-11-30' },
        { deal: { id, name: 'Deal' }, part: 'visit', name: '', before: '2026-12-01', after: '2026-12-02' },
      ],
    });
    expect(await daysOf(id)).toEqual(['2026-12-01', '2026-11-27']);
    const stale = works;
    await change({ holidays: [THURSDAY] });
    expect(await daysOf(id)).toEqual(['2026-12-02', '2026-11-30']);
    expect(await daysOf(other)).toEqual(otherDays);
    expect(await daysOf(await deal(process))).toEqual(['2026-12-02', '2026-11-30']);
    const [entry] = (await maren.get(`/deals/${id}/journal`)).body.items;
    expect(entry.body).toMatchObject({ kind: 'days_recounted', calendar: 'Works' });
    const [logged] = (await maren.get('/settings/log?limit=1')).body.items;
    expect(logged).toMatchObject({ what: 'calendar', subject: 'Works', by: 'Maren Holt' });
    expect(logged.changes).toEqual([{ part: 'holidays', before: 'none', after: '2026-11-26 Stocktaking' }]);
    works = { ...stale, id: works.id };
    await change({ name: 'Works anew' }, 409);
    works = (await maren.get('/calendars')).body.items.find((one: { id: string }) => one.id === works.id);
    await change({ holidays: [] });
    expect(await daysOf(id)).toEqual(['2026-12-01', '2026-11-27']);
  });

  it('changes the future only: what is due today or was stays, and so does what is late', async () => {
    const process = await begin('Future');
    const id = await deal(process);
    test.clock.pass(3 * DAY);
    maren = await test.as('maren');
    await change({ holidays: [THURSDAY, { day: '2026-11-30', name: '' }] });
    expect(await daysOf(id)).toEqual(['2026-12-02', '2026-11-27']);
    await change({ holidays: [] });
    expect(await daysOf(id)).toEqual(['2026-12-01', '2026-11-27']);
  });

  it('is chosen for a process, whose days go by it then', async () => {
    const process = await begin('Chosen');
    const id = await deal(process);
    const before = await daysOf(id);
    const six = (
      await maren.post('/calendars', { ...WORKS, name: 'Six days', workingWeekdays: [1, 2, 3, 4, 5, 6] }, 201)
    ).body;
    const effect = await maren.post('/calendars/effect', { what: 'process', process, calendar: six.id });
    expect(effect.body).toMatchObject({ moveOn: 1, steps: 1 });
    await maren.send('PUT', `/processes/${process}/calendar`, { calendar: six.id, saw: six.id }, 409);
    await maren.send('PUT', `/processes/${process}/calendar`, { calendar: six.id, saw: works.id }, 200);
    const after = await daysOf(id);
    expect(after[0] < before[0]).toBe(true);
    expect((await maren.get(`/processes/${process}`)).body.calendar).toEqual({ id: six.id, name: 'Six days' });
  });
});

describe('a server that goes in between', () => {
  it('has each day counted anew once, whatever was begun again, and what was begun meanwhile not at all', async () => {
    const process = await begin('Killed');
    const ids = await Promise.all(Array.from({ length: 60 }, (_, place) => deal(process, `Deal ${place}`)));
    const day = (await daysOf(ids[0] ?? ''))[0];
    const { id, name, workingWeekdays, holidays } = works;
    const saw = { name, workingWeekdays, holidays };
    const next = { day, name: '' };
    const source = test.server.context.dataSource;
    const asked = await source.transaction((tx) => calendarToChange(tx, id, { ...saw, holidays: [next], saw }));
    let steps = 0;
    const work = (most: number): WorkInHand<never> => ({
      id: '01900000-0000-7000-8000-000000000999',
      subject: 'calendars',
      by: PEOPLE.maren?.id ?? '',
      request: asked.request as never,
      now: test.clock.now(),
      progress: async () => undefined,
      bind: async () => undefined,
      apart: async (step) => {
        if (++steps > most) throw new Error('killed');
        return source.transaction(step);
      },
    });
    await expect(source.transaction((tx) => calendarWork.run(tx, work(2)))).rejects.toThrow('killed');
    const late = await deal(process, 'Begun meanwhile');
    const lateDays = await daysOf(late);
    await source.transaction((tx) => calendarWork.run(tx, work(100)));
    const all = await Promise.all([...ids, late].map(daysOf));
    expect(new Set(all.map((days) => JSON.stringify(days))).size).toBe(1);
    expect(all[0]?.[0] > day).toBe(true);
    expect(await daysOf(late)).toEqual(lateDays);
    const { rows } = await asOwner(test.database, 'select count(*)::int from day_recounts', []);
    expect(rows[0]?.count).toBe(0);
  });
});
