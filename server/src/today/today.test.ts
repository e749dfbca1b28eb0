import { guided, result } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  filled,
  PEOPLE,
  publishFirst,
  stage,
  startTestServer,
  TEAMS,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
const deals: Record<string, { id: string; revision: number; version: { id: string } }> = {};
const who = (name: string): Promise<Client> => test.as(name);
const idOf = (name: string): string => PEOPLE[name]?.id ?? '';
interface Entry {
  readonly deal: { readonly name: string };
  readonly group: string;
  readonly daysLate: number;
  readonly item: { readonly kind: string };
  readonly others: readonly { readonly kind: string }[];
}
const day = async (name: string, query = '') => (await (await who(name)).get(`/today${query}`)).body;
const shown = ({ items }: { items: readonly Entry[] }) =>
  items.map(({ deal, group, item }) => [deal.name, group, item.kind]);

const steps = [
  guided('book', {
    due: { days: 1, counting: 'calendar', after: 'arrival' },
    results: [result('booked', { to: 'finish' })],
  }),
];
const sign = [guided('sign', { who: { by: 'role', role: 'manager' } })];

/** On a Tuesday; looked at on the Tuesday after. */
beforeAll(async () => {
  test = await startTestServer();
  const priya = await who('priya');
  const reasons = [{ id: 'later', outcome: 'lost', name: 'Next year', followUp: 'asked', withdrawn: 'no' }];
  const process = await publishFirst(await who('maren'), {
    ...DOCUMENT,
    name: 'Days',
    skips: 'allow',
    stages: [
      stage('a', 'Brief', { chance: 50, target: { days: 30, counting: 'calendar' }, idleDays: 3 }),
      stage('b', 'Survey', { steps, target: null }),
      stage('c', 'Design', { enter: [filled('crop', 'crop')], target: null }),
      stage('d', 'Terms', { steps: sign, target: null }),
    ],
  });
  await (await who('maren')).patch(`/processes/${process}`, { reasons });
  const begin = async (name: string, stageId: string, minor: number | null, more: object = {}) => {
    const value = minor === null ? null : { minor, currency: 'GBP' };
    const { body } = await priya.post('/deals', { process, name, stage: stageId, values: { value, ...more } }, 201);
    deals[name] = body;
    return body;
  };
  await begin('Quiet', 'a', 100);
  await begin('Stepped', 'b', 200_000);
  const held = await begin('Held', 'b', 50_000);
  await priya.post(`/deals/${held.id}/moves`, { target: { to: 'stage', stage: 'c' }, revision: held.revision }, 422);
  await begin('Signed', 'd', 10_000);
  await begin('Planned', 'c', 1_000, {
    crop: 'herbs',
    next_action: 'Send the drawings',
    next_action_day: '2026-12-01',
  });
  const lost = await begin('Lost', 'c', 70_000, { crop: 'herbs' });
  const closing = {
    target: { to: 'outcome', outcome: 'lost' },
    reason: 'later',
    followUp: '2026-12-04',
    revision: lost.revision,
  };
  await priya.post(`/deals/${lost.id}/moves`, closing);
  const theirs = await begin('Given', 'c', 3_000, { crop: 'herbs' });
  const task = { title: 'Ring them', assignee: idOf('tomas'), dueDay: '2026-12-01', dueTime: '09:30' };
  await priya.post(`/deals/${theirs.id}/tasks`, task, 201);
  test.clock.set(test.clock.now() + 7 * DAY);
});
afterAll(() => test.stop());

describe('a seller’s day', () => {
  it('has each deal once, under its strongest reason, what matters most first', async () => {
    const today = await day('priya');
    expect(shown(today)).toEqual([
      ['Held', 'held', 'held'],
      ['Stepped', 'late', 'step'],
      ['Quiet', 'late', 'idle'],
      ['Planned', 'today', 'next_action'],
      ['Lost', 'coming', 'follow_up'],
      ['Signed', 'nobody', 'step'],
    ]);
    expect(today.items[0]).toMatchObject({ daysLate: 8, weightedMinor: 25_000, others: [{ kind: 'step' }] });
    expect(today.items[1]).toMatchObject({ daysLate: 6, item: { name: 'book', dueDay: '2026-11-25' } });
    expect(today.items[2]).toMatchObject({ item: { activeDay: '2026-11-24', allowedDays: 3 }, daysLate: 4 });
    expect(today.items[4]).toMatchObject({ deal: { status: 'lost', reason: 'Next year' }, weightedMinor: 0 });
    expect(today.counts).toEqual({ held: 1, late: 2, today: 1, coming: 1, nobody: 1 });
    expect((await (await who('priya')).get('/today/late')).body).toEqual({ held: 1, late: 2 });
  });

  it('stands by due day where that is asked for, and is read in pages', async () => {
    expect((await day('priya', '?order=due')).items.map(({ deal }: Entry) => deal.name)).toEqual([
      'Held',
      'Stepped',
      'Quiet',
      'Planned',
      'Lost',
      'Signed',
    ]);
    const first = await day('priya', '?limit=4');
    const second = await day('priya', `?limit=4&after=${first.next}`);
    expect([...shown(first), ...shown(second)]).toEqual(shown(await day('priya')));
    expect(second.next).toBeNull();
    await (await who('priya')).get('/today?after=nonsense', 400);
  });

  it('tells what was done, and the step is gone from it', async () => {
    const priya = await who('priya');
    const stepped = deals.Stepped ?? expect.fail();
    await priya.post(`/deals/${stepped.id}/steps/1/result`, {
      result: 'booked',
      version: stepped.version.id,
      captures: [],
    });
    const today = await day('priya');
    expect([today.done, shown(today).some(([name]) => name === 'Stepped')]).toEqual([1, false]);
    const { body: done } = await priya.get('/today/done');
    expect(done.items).toMatchObject([{ deal: { name: 'Stepped' }, what: 'book', how: 'booked' }]);
    await priya.post(`/deals/${stepped.id}/steps/1/take-back`, {});
    expect((await day('priya')).done).toBe(0);
  });
});

describe('the day of others', () => {
  it('is a manager’s to see, of their teams and their people; a seller sees their own alone, a viewer none', async () => {
    expect(shown(await day('tomas'))).toEqual([
      ['Given', 'today', 'task'],
      ['Signed', 'nobody', 'step'],
    ]);
    expect(shown(await day('tomas', `?person=${idOf('priya')}`))).toEqual(shown(await day('priya')));
    const team = await day('tomas', `?team=${TEAMS.north}`);
    expect(shown(team).map(([name]) => name)).toEqual([
      'Held',
      'Stepped',
      'Quiet',
      'Given',
      'Planned',
      'Lost',
      'Signed',
    ]);
    await (await who('tomas')).get(`/today?person=${idOf('priya')}&team=${TEAMS.north}`, 400);
    await (await who('priya')).get(`/today?person=${idOf('tomas')}`, 403);
    await (await who('priya')).get(`/today?team=${TEAMS.north}`, 403);
    await (await who('lena')).get('/today', 403);
    expect((await day('bea')).items).toEqual([]);
    await (await who('maren')).get(`/today?person=${idOf('bea')}`, 200);
    await (await who('maren')).get('/today?team=01900000-0000-7000-8000-00000000dead', 404);
  });

  it('is handed over, several things at once: all of them or none', async () => {
    const tomas = await who('tomas');
    const [stepped, given] = [deals.Stepped?.id, deals.Given?.id];
    const items = [
      { kind: 'step', deal: stepped, run: 1 },
      { kind: 'task', deal: given, task: 1 },
    ];
    const to = (person: string, more: object[] = [], status = 200) =>
      tomas.post('/today/hand-over', { person, items: [...items, ...more] }, status);
    // Bea is of another team; a task that is not there.
    await to(idOf('bea'), [], 400);
    await to(idOf('priya'), [{ kind: 'task', deal: given, task: 2 }], 409);
    expect(shown(await day('tomas')).map(([name]) => name)).toContain('Given');
    expect((await to(idOf('tomas'))).body).toEqual({ items: 2 });
    expect(shown(await day('tomas'))).toEqual([
      ['Stepped', 'late', 'step'],
      ['Given', 'today', 'task'],
      ['Signed', 'nobody', 'step'],
    ]);
    expect(shown(await day('priya')).map(([name]) => name)).not.toContain('Stepped');
    await (await who('priya')).post('/today/hand-over', { person: idOf('priya'), items }, 403);
  });
});
