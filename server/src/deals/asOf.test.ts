import { afterAll, beforeAll, expect, it } from 'vitest';
import { dayOf, FIRST } from '../testing/daysGoneBy.ts';
import { DAY } from '../testing/movableClock.ts';
import { seededChoice, seededNumbers } from '../testing/seededNumbers.ts';
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
const oneOf = seededChoice(next);
const DAYS = 9;
const ASKED = [
  { as: 'maren', page: 'compliance', filter: '' },
  { as: 'maren', page: 'compliance', filter: `&team=${TEAMS.south}` },
  { as: 'tomas', page: 'compliance', filter: `&owner=${PEOPLE.priya?.id}` },
  { as: 'priya', page: 'compliance', filter: '' },
  { as: 'maren', page: 'lanes', filter: '' },
  { as: 'maren', page: 'lanes', filter: '&standing=held' },
  { as: 'lena', page: 'lanes', filter: '&pastTarget=yes' },
  { as: 'priya', page: 'lanes', filter: '&closeBefore=2026-11-30' },
  { as: 'tomas', page: 'movement', filter: '&from=2026-11-24' },
];

interface Said {
  readonly asked: (typeof ASKED)[number];
  readonly on: string;
  // biome-ignore lint/suspicious/noExplicitAny: an answer that was checked against the OpenAPI document
  readonly body: any;
}

const ask = async ({ as, page, filter }: (typeof ASKED)[number], on: string) =>
  (
    await (
      await test.as(as)
    ).get(`/processes/${test.process}/${page}?${page === 'movement' ? 'to' : 'on'}=${on}${filter}`)
  ).body;

const OF_TODAY = ['today', 'kinds', 'outcomes', 'movesAsk', 'cards', 'targetDays'];

/** What is told alike of a day while it is and when it has gone by: neither what is of today, nor how its version is called since. */
const ofThatDay = ({ version, ...told }: Said['body']): Said['body'] => ({
  ...JSON.parse(JSON.stringify(told, (name, value) => (OF_TODAY.includes(name) ? undefined : value))),
  version: 'on' in told ? version.number : null,
});

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
    () => edit('close_date', oneOf([null, '2026-11-28', '2026-12-20'])),
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
  3: async () =>
    (await test.as('maren')).send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: dayOf(3), rate: 0.87 }, 200),
  4: () => publish([filled('b1', 'area')], { deals: 'stay' }),
  5: async () =>
    (await test.as('maren')).send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: dayOf(5), rate: 0.5 }, 200),
  7: () => publish([filled('b1', 'crop')], { deals: 'move_over' }),
};

async function publish(enter: (typeof DOCUMENT.stages)[number]['enter'], how: object): Promise<void> {
  const maren = await test.as('maren');
  await maren.post(`/processes/${test.process}/draft`, undefined, 201);
  const stages = DOCUMENT.stages.map((one) => ({
    ...one,
    ...(one.id === 'brief' ? { enter } : {}),
    target: one.id === 'survey' ? null : ({ days: 2, counting: 'calendar' } as const),
  }));
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
    for (const asked of ASKED) said.push({ asked, on: dayOf(place), body: await ask(asked, dayOf(place)) });
  }
  test.clock.set(FIRST + DAYS * DAY + DAY / 2);
  for (const { asked, on, body } of said) {
    const told = await ask(asked, on);
    expect(told.today ?? dayOf(DAYS)).toBe(dayOf(DAYS));
    expect({ asked, ...ofThatDay(told) }).toEqual({ asked, ...ofThatDay(body) });
  }
  // What would show nothing would show no difference either.
  const differs = (place: number, figure: (body: Said['body']) => number): boolean =>
    new Set(said.filter(({ asked }) => asked === ASKED[place]).map(({ body }) => figure(body))).size > 1;
  expect(new Set(said.map(({ body }) => body.version.number))).toEqual(new Set([1, 2, 3]));
  expect({
    held: differs(0, ({ all }) => all.held),
    flagged: differs(0, ({ all }) => all.flagged),
    heldMinor: differs(0, ({ heldMinor }) => heldMinor),
    withoutRate: differs(0, ({ heldWithoutRate }) => heldWithoutRate),
    olderVersions: differs(0, ({ olderVersions }) => olderVersions),
    ofAPerson: differs(3, ({ all }) => all.deals),
    weighted: differs(4, ({ weightedMinor }) => weightedMinor),
    onlyHeld: differs(5, ({ openDeals }) => openDeals),
    pastTarget: differs(6, ({ openDeals }) => openDeals),
    closing: differs(7, ({ openDeals }) => openDeals),
    movement: differs(8, ({ stages }) => stages[0].openPastTarget),
  }).toEqual({
    held: true,
    flagged: true,
    heldMinor: true,
    withoutRate: true,
    olderVersions: true,
    ofAPerson: true,
    weighted: true,
    onlyHeld: true,
    pastTarget: true,
    closing: true,
    movement: true,
  });
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
