import { guided, result } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { dayOf, FIRST } from '../testing/daysGoneBy.ts';
import { DAY } from '../testing/movableClock.ts';
import { seededChoice, seededNumbers } from '../testing/seededNumbers.ts';
import { asOwner } from '../testing/testDatabase.ts';
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
interface Asked {
  readonly as: string;
  readonly page: string;
  readonly filter: string;
}
const ASKED: readonly Asked[] = [
  { as: 'maren', page: 'compliance', filter: '' },
  { as: 'maren', page: 'compliance', filter: `&team=${TEAMS.south}` },
  { as: 'priya', page: 'compliance', filter: '' },
  { as: 'maren', page: 'lanes', filter: '' },
  { as: 'tomas', page: 'lanes', filter: '&standing=flagged' },
  { as: 'lena', page: 'lanes', filter: '&pastTarget=yes' },
  { as: 'priya', page: 'lanes', filter: '&closeBefore=2026-11-30' },
  { as: 'maren', page: 'movement', filter: '' },
  { as: 'tomas', page: 'movement', filter: `&team=${TEAMS.south}` },
  { as: 'priya', page: 'movement', filter: '' },
];

const ask = async ({ as, page, filter }: Asked, on: string, known = '') => {
  const day = page === 'movement' ? `from=${dayOf(0)}&to=${on}` : `on=${on}`;
  return (await (await test.as(as)).get(`/processes/${test.process}/${page}?${day}${filter}${known}`)).body;
};

const OF_TODAY = ['today', 'kinds', 'outcomes', 'movesAsk', 'cards', 'targetDays', 'version', 'otherStages'];
const ofThatDay = (told: unknown): unknown =>
  JSON.parse(JSON.stringify(told, (name, value) => (OF_TODAY.includes(name) ? undefined : value)));

async function work(id: string): Promise<void> {
  test.clock.pass(next(1_800_000));
  const maren = await test.as('maren');
  const { body: deal } = await maren.get(`/deals/${id}`);
  const edit = (field: string, value: unknown) =>
    maren.send('PATCH', `/deals/${id}`, { changes: [{ field, saw: deal.values[field] ?? null, value }] }, 0);
  const moveTo = (target: object) =>
    maren.post(`/deals/${id}/moves`, { target, revision: deal.revision, mode: 'force', text: 'So it was' }, 0);
  const move = (stage: string) => moveTo({ to: 'stage', stage });
  const close = (outcome: string) => moveTo({ to: 'outcome', outcome });
  const takeBack = (what: string, more: object) => () =>
    maren.post(`/deals/${id}/${what}/take-back`, { text: 'So it was not', ...more }, 0);
  const takeMoveBack = takeBack('moves', { revision: deal.revision });
  const voided = () => maren.post(`/deals/${id}/void`, { text: 'A test' }, 0);
  const reopen = () => maren.post(`/deals/${id}/reopen`, { text: 'It goes on' }, 0);
  const happenedAt = new Date(test.clock.now() - (1 + next(3)) * DAY).toISOString();
  const call = () => maren.post(`/deals/${id}/activities`, { kind: 'call', text: 'Rang.', happenedAt }, 0);
  if (deal.status.state !== 'open') return void (await oneOf([reopen, reopen, takeMoveBack, call, voided])());
  const [atHand] = deal.stepsAtHand;
  const endStep = () =>
    maren.post(
      `/deals/${id}/steps/${atHand.seq}/result`,
      { result: oneOf(['done', 'again']), version: deal.version.id, captures: [] },
      0,
    );
  const done = deal.stepsDone.find(({ takeBack }: { takeBack: boolean }) => takeBack);
  await oneOf([
    () => edit('crop', oneOf([null, 'herbs'])),
    () => edit('value', oneOf([null, { minor: 1_000 + next(9_000), currency: oneOf(['GBP', 'EUR']) }])),
    () => edit('close_date', oneOf([null, '2026-11-28', '2026-12-20'])),
    () => edit('owner', oneOf([PEOPLE.priya?.id, PEOPLE.bea?.id, null])),
    () => edit('team', oneOf([TEAMS.north, TEAMS.south, null])),
    () => move('survey'),
    () => move('proposal'),
    () => close(oneOf(['won', 'lost'])),
    ...(atHand ? [endStep, endStep] : []),
    ...(done ? [takeBack(`steps/${done.seq}`, {})] : []),
    takeMoveBack,
    () => (next(3) === 0 ? voided() : move('survey')),
    call,
  ])();
}

it('what was known on a day is told as it was said on it, and what is known of it now otherwise', async () => {
  const maren = await test.as('maren');
  await maren.send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: '2026-11-01', rate: 0.87 }, 200);
  await maren.patch(`/processes/${test.process}`, {
    houseRules: { past_target: 'flag', idle: 'hold', close_date_past: 'flag', no_next_action: 'off', step_late: 'off' },
  });
  await maren.post(`/processes/${test.process}/draft`, undefined, 201);
  const steps = [guided('book', { results: [result('done'), result('again', { to: 'step', step: 'book' })] })];
  const stages = DOCUMENT.stages.map((one) => ({
    ...one,
    idleDays: 1,
    steps: one.id === 'survey' ? steps : [],
    target: one.id === 'proposal' ? null : ({ days: 2, counting: 'calendar' } as const),
  }));
  await saveAndPublish(maren, test.process, { ...DOCUMENT, stages });
  const said: { readonly asked: Asked; readonly on: string; readonly body: unknown }[] = [];
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
    for (let commands = 0; commands < 20; commands++) await work(oneOf(deals));
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
  // All ways of saying it otherwise were taken.
  const { rows } = await asOwner(
    test.database,
    `select count(taken_back_at) > 0 as taken, count(voided_at) > 0 as voided, count(reopened_at) > 0 as reopened,
       exists (select from deal_states where correction <> 0) as states from moves`,
  );
  expect(Object.values(Object(rows[0]))).toEqual([true, true, true, true]);
  // What nothing was said otherwise of would show no difference either.
  expect(otherwise.size).toBe(ASKED.length);
});
