import { afterAll, beforeAll, expect, it } from 'vitest';
import { DAY } from '../testing/movableClock.ts';
import { seededNumbers } from '../testing/seededNumbers.ts';
import {
  DOCUMENT,
  filled,
  PEOPLE,
  saveAndPublish,
  startTestServer,
  TEAMS,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
beforeAll(async () => {
  test = await startTestServer();
});
afterAll(() => test.stop());

const next = seededNumbers(11);
const oneOf = <T>(list: readonly T[]): T => list[next(list.length)] as T;
const FIRST = Date.UTC(2026, 10, 24);
/** London's days are those of UTC in winter. */
const dayOf = (place: number): string => new Date(FIRST + place * DAY).toISOString().slice(0, 10);
const DAYS = 9;
const ASKED = [
  { as: 'maren', filter: '' },
  { as: 'maren', filter: `&team=${TEAMS.south}` },
  { as: 'tomas', filter: `&owner=${PEOPLE.priya?.id}` },
  { as: 'priya', filter: '' },
];

interface Said {
  readonly as: string;
  readonly filter: string;
  readonly on: string;
  // biome-ignore lint/suspicious/noExplicitAny: an answer that was checked against the OpenAPI document
  readonly body: any;
}

const ask = async ({ as, filter }: (typeof ASKED)[number], on: string) =>
  (await (await test.as(as)).get(`/processes/${test.process}/compliance?on=${on}${filter}`)).body;

/** Something that may be done to a deal. What takes back what was so on days before is not among it. */
async function work(id: string): Promise<void> {
  const maren = await test.as('maren');
  const { body: deal } = await maren.get(`/deals/${id}`);
  const edit = (field: string, value: unknown) =>
    maren.send('PATCH', `/deals/${id}`, { changes: [{ field, saw: deal.values[field] ?? null, value }] }, 0);
  const move = (target: object) =>
    maren.post(`/deals/${id}/moves`, { target, revision: deal.revision, mode: 'force', text: 'So it was' }, 0);
  await oneOf([
    () => edit('area', oneOf([null, 150, 300])),
    () => edit('crop', oneOf([null, 'herbs'])),
    () => edit('value', oneOf([null, { minor: 1_000 + next(9_000), currency: oneOf(['GBP', 'EUR']) }])),
    () => edit('owner', oneOf([PEOPLE.priya?.id, PEOPLE.bea?.id, null])),
    () => edit('team', oneOf([TEAMS.north, TEAMS.south, null])),
    () => maren.post(`/deals/${id}/ticks`, { item: 'called', state: oneOf(['ticked', 'unticked']) }, 0),
    () => move({ to: 'stage', stage: oneOf(['brief', 'survey', 'proposal']) }),
    () => move(next(4) === 0 ? { to: 'outcome', outcome: 'lost' } : { to: 'stage', stage: 'survey' }),
  ])();
}

/** What happens once, by the day on which it does. */
const ONCE: Readonly<Record<number, () => Promise<unknown>>> = {
  0: async () => {
    const houseRules = {
      past_target: 'flag',
      idle: 'hold',
      close_date_past: 'flag',
      no_next_action: 'off',
      step_late: 'off',
    };
    await (await test.as('maren')).patch(`/processes/${test.process}`, { houseRules });
  },
  1: async () =>
    (await test.as('maren')).send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: dayOf(1), rate: 0.87 }, 200),
  4: () => publish([filled('b1', 'area')], { deals: 'stay' }),
  5: async () =>
    (await test.as('maren')).send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: dayOf(5), rate: 0.5 }, 200),
  7: () => publish([filled('b1', 'crop')], { deals: 'move_over' }),
};

async function publish(enter: (typeof DOCUMENT.stages)[number]['enter'], how: object): Promise<void> {
  const maren = await test.as('maren');
  await maren.post(`/processes/${test.process}/draft`, undefined, 201);
  const stages = DOCUMENT.stages.map((one) => (one.id === 'brief' ? { ...one, enter } : one));
  await saveAndPublish(maren, test.process, { ...DOCUMENT, stages }, how);
}

it('a past day is told as it was at its end: by whose deals were then, at its rates, by its version', async () => {
  const said: Said[] = [];
  const deals: string[] = [];
  for (let place = 0; place < DAYS; place++) {
    test.clock.set(FIRST + place * DAY + DAY / 2);
    const maren = await test.as('maren');
    for (let begun = 0; begun < 2; begun++) {
      const values = {
        owner: oneOf([PEOPLE.priya?.id, PEOPLE.bea?.id]),
        team: oneOf([TEAMS.north, TEAMS.south]),
        value: { minor: 5_000, currency: 'EUR' },
      };
      deals.push((await maren.post('/deals', { process: test.process, name: 'Deal', values }, 201)).body.id);
    }
    await ONCE[place]?.();
    for (let commands = 0; commands < 12; commands++) await work(oneOf(deals));
    test.clock.set(FIRST + (place + 1) * DAY - 1);
    for (const asked of ASKED) said.push({ ...asked, on: dayOf(place), body: await ask(asked, dayOf(place)) });
  }
  test.clock.set(FIRST + DAYS * DAY + DAY / 2);
  for (const { on, body, ...asked } of said) {
    const { today, version, kinds: _kinds, ...told } = await ask(asked, on);
    const { today: _then, version: wasLive, kinds: _shown, ...was } = body;
    expect({ on, ...told }).toEqual(was);
    expect(today).toBe(dayOf(DAYS));
    expect(version.number).toBe(wasLive.number);
  }
  // What would show nothing would show no difference either.
  const of = (figure: (body: Said['body']) => number): number[] =>
    said.filter(({ as, filter }) => as === 'maren' && filter === '').map(({ body }) => figure(body));
  expect(new Set(of(({ version }) => version.number))).toEqual(new Set([1, 2, 3]));
  const differs = (figure: (body: Said['body']) => number): boolean => new Set(of(figure)).size > 1;
  expect({
    held: differs(({ all }) => all.held),
    flagged: differs(({ all }) => all.flagged),
    heldMinor: differs(({ heldMinor }) => heldMinor),
    withoutRate: differs(({ heldWithoutRate }) => heldWithoutRate),
    olderVersions: differs(({ olderVersions }) => olderVersions),
  }).toEqual({ held: true, flagged: true, heldMinor: true, withoutRate: true, olderVersions: true });
});

it('a day before the process was is empty, one to come is refused, and no day is none', async () => {
  const [maren, lena] = [await test.as('maren'), await test.as('lena')];
  const path = `/processes/${test.process}/compliance?on=`;
  const { body } = await lena.get(`${path}2020-02-29`);
  expect(body).toMatchObject({ on: '2020-02-29', version: null, stages: [], all: { deals: 0 }, olderVersions: 0 });
  expect((await maren.get(`${path}${dayOf(DAYS + 1)}`, 400)).body.errors).toEqual([
    { pointer: '/query/on', detail: 'Today or a day before.' },
  ]);
  for (const day of ['9999-12-31', '2026-02-30', 'yesterday', '']) await maren.get(`${path}${day}`, 400);
  expect((await maren.get(`${path}${dayOf(DAYS)}`)).body).toEqual(
    (await maren.get(`/processes/${test.process}/compliance`)).body,
  );
});
