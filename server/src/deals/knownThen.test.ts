import { afterAll, beforeAll, expect, it } from 'vitest';
import { dayOf, FIRST } from '../testing/daysGoneBy.ts';
import { DAY } from '../testing/movableClock.ts';
import { seededChoice, seededNumbers } from '../testing/seededNumbers.ts';
import { DOCUMENT, PEOPLE, saveAndPublish, startTestServer, TEAMS, type TestServer } from '../testing/testServer.ts';

/* What was known on a day (S21) is what was said on it, whatever was taken back, voided or written down late since. */

let test: TestServer;
beforeAll(async () => {
  test = await startTestServer();
});
afterAll(() => test.stop());

const next = seededNumbers(23);
const oneOf = seededChoice(next);
const DAYS = 8;
const ASKED = [
  { as: 'maren', page: 'compliance', filter: '' },
  { as: 'maren', page: 'compliance', filter: `&team=${TEAMS.south}` },
  { as: 'priya', page: 'compliance', filter: '' },
  { as: 'maren', page: 'lanes', filter: '' },
  { as: 'tomas', page: 'lanes', filter: '&standing=flagged' },
  { as: 'lena', page: 'lanes', filter: '&pastTarget=yes' },
  { as: 'priya', page: 'lanes', filter: '&closeBefore=2026-11-30' },
];

const ask = async ({ as, page, filter }: (typeof ASKED)[number], on: string, known = '') =>
  (await (await test.as(as)).get(`/processes/${test.process}/${page}?on=${on}${filter}${known}`)).body;

const OF_TODAY = ['today', 'kinds', 'outcomes', 'movesAsk', 'cards', 'targetDays', 'version', 'otherStages'];
const ofThatDay = (told: unknown): unknown =>
  JSON.parse(JSON.stringify(told, (name, value) => (OF_TODAY.includes(name) ? undefined : value)));

async function work(id: string): Promise<void> {
  test.clock.pass(next(1_800_000));
  const maren = await test.as('maren');
  const { body: deal } = await maren.get(`/deals/${id}`);
  const edit = (field: string, value: unknown) =>
    maren.send('PATCH', `/deals/${id}`, { changes: [{ field, saw: deal.values[field] ?? null, value }] }, 0);
  const move = (stage: string) =>
    maren.post(
      `/deals/${id}/moves`,
      { target: { to: 'stage', stage }, revision: deal.revision, mode: 'force', text: 'So it was' },
      0,
    );
  const daysAgo = 1 + next(3);
  await oneOf([
    () => edit('crop', oneOf([null, 'herbs'])),
    () => edit('value', oneOf([null, { minor: 1_000 + next(9_000), currency: oneOf(['GBP', 'EUR']) }])),
    () => edit('close_date', oneOf([null, '2026-11-28', '2026-12-20'])),
    () => edit('owner', oneOf([PEOPLE.priya?.id, PEOPLE.bea?.id, null])),
    () => edit('team', oneOf([TEAMS.north, TEAMS.south, null])),
    () => move('survey'),
    () => move('proposal'),
    () => maren.post(`/deals/${id}/moves/take-back`, { revision: deal.revision, text: 'So it was not' }, 0),
    () => (next(3) === 0 ? maren.post(`/deals/${id}/void`, { text: 'A test' }, 0) : move('survey')),
    () =>
      maren.post(
        `/deals/${id}/activities`,
        { kind: 'call', text: 'Rang.', happenedAt: new Date(test.clock.now() - daysAgo * DAY).toISOString() },
        0,
      ),
  ])();
}

it('what was known on a day is told as it was said on it, and what is known of it now otherwise', async () => {
  const maren = await test.as('maren');
  await maren.send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: '2026-11-01', rate: 0.87 }, 200);
  await maren.patch(`/processes/${test.process}`, {
    houseRules: { past_target: 'flag', idle: 'hold', close_date_past: 'flag', no_next_action: 'off', step_late: 'off' },
  });
  await maren.post(`/processes/${test.process}/draft`, undefined, 201);
  const stages = DOCUMENT.stages.map((one) => ({
    ...one,
    idleDays: 1,
    target: one.id === 'proposal' ? null : ({ days: 2, counting: 'calendar' } as const),
  }));
  await saveAndPublish(maren, test.process, { ...DOCUMENT, stages });
  const said: { readonly asked: (typeof ASKED)[number]; readonly on: string; readonly body: unknown }[] = [];
  const deals: string[] = [];
  for (let place = 0; place < DAYS; place++) {
    test.clock.set(FIRST + place * DAY + DAY / 3);
    for (let begun = 0; begun < 3; begun++) {
      const values = {
        owner: PEOPLE.priya?.id,
        team: oneOf([TEAMS.north, TEAMS.south]),
        value: { minor: 5_000, currency: 'EUR' },
      };
      const client = await test.as('maren');
      deals.push((await client.post('/deals', { process: test.process, name: 'Deal', values }, 201)).body.id);
    }
    for (let commands = 0; commands < 15; commands++) await work(oneOf(deals));
    test.clock.set(FIRST + (place + 1) * DAY - 1);
    for (const asked of ASKED) said.push({ asked, on: dayOf(place), body: await ask(asked, dayOf(place)) });
  }
  test.clock.set(FIRST + DAYS * DAY + DAY / 2);
  const otherwise = new Set<string>();
  for (const { asked, on, body } of said) {
    expect({ asked, on, ...Object(ofThatDay(await ask(asked, on, '&known=then'))) }).toEqual({
      asked,
      on,
      ...Object(ofThatDay(body)),
    });
    const known = JSON.stringify(ofThatDay(await ask(asked, on)));
    if (known !== JSON.stringify(ofThatDay(body))) otherwise.add(JSON.stringify(asked));
  }
  // What nothing was said otherwise of would show no difference either.
  expect(otherwise.size).toBe(ASKED.length);
});
