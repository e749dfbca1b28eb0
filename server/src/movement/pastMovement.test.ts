import { guided } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { dayOf as dayAfterFirst, FIRST } from '../testing/daysGoneBy.ts';
import { DAY } from '../testing/movableClock.ts';
import { DOCUMENT, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';

/* Movement of a period that has gone by, told by what is known of it now, and by what was known at its end (S12, S21). */

let test: TestServer;
let maren: Client;
/** The first day of each test: time does not go back. */
let begun = 0;
beforeAll(async () => {
  test = await startTestServer();
});
beforeEach(async () => {
  begun += 10;
  await onDay(0);
});
afterAll(() => test.stop());

async function onDay(place: number): Promise<void> {
  test.clock.set(FIRST + (begun + place) * DAY + DAY / 2);
  maren = await test.as('maren');
}

const dayOf = (place: number): string => dayAfterFirst(begun + place);
const publish = (name: string): Promise<string> =>
  publishFirst(maren, {
    ...DOCUMENT,
    name,
    stages: [
      stage('a', 'Brief', { steps: [guided('call')] }),
      stage('b', 'Survey', { target: { days: 3, counting: 'calendar' } }),
    ],
    outcomes: DOCUMENT.outcomes.map((outcome) => ({ ...outcome, requirements: [] })),
  });
const begin = async (process: string) => (await maren.post('/deals', { process, name: 'Deal', values: {} }, 201)).body;
const move = async (deal: { id: string; revision: number }, target: object) =>
  (await maren.post(`/deals/${deal.id}/moves`, { target, revision: deal.revision })).body.deal;
const TO_SURVEY = { to: 'stage', stage: 'b' };
const WON = { to: 'outcome', outcome: 'won' };

async function told(process: string, until: number, known = '') {
  const { body } = await maren.get(`/processes/${process}/movement?from=${dayOf(-30)}&to=${dayOf(until)}${known}`);
  const [brief, survey] = body.stages;
  const cycle = body.medianCycleDays;
  return { started: body.started, won: body.won, cycle, open: [brief.openDeals, survey.openDeals], steps: brief.steps };
}
const THEN = '&known=then';

describe('movement of a period that has gone by', () => {
  it('counts a closing until the deal was reopened, however it is told', async () => {
    const process = await publish('Reopened');
    const deal = await move(await begin(process), TO_SURVEY);
    await onDay(2);
    await move(deal, WON);
    await onDay(4);
    await maren.post(`/deals/${deal.id}/reopen`, { text: 'They signed nothing' });
    await onDay(5);
    const [won, open] = [
      { won: 1, cycle: 2, open: [0, 0] },
      { won: 0, cycle: null, open: [0, 1] },
    ];
    for (const known of ['', THEN]) {
      expect(await told(process, 1, known)).toMatchObject(open);
      expect(await told(process, 3, known)).toMatchObject(won);
      expect(await told(process, 4, known)).toMatchObject(open);
    }
    await maren.post(`/deals/${deal.id}/void`, { text: 'A test' });
    await onDay(6);
    expect(await told(process, 3)).toMatchObject({ started: 0, won: 0, cycle: null, open: [0, 0] });
    expect(await told(process, 3, THEN)).toMatchObject({ started: 1, ...won });
    expect(await told(process, 4, THEN)).toMatchObject({ started: 1, ...open });
  });

  it('has, as it was known then, what was taken back since', async () => {
    const process = await publish('Taken back');
    const deal = await begin(process);
    const [run] = deal.stepsAtHand;
    const result = { result: 'done', version: deal.version.id, captures: [] };
    const { body } = await maren.post(`/deals/${deal.id}/steps/${run.seq}/result`, result);
    await move(body.deal, TO_SURVEY);
    await onDay(1);
    const { revision } = (await maren.get(`/deals/${deal.id}`)).body;
    await maren.post(`/deals/${deal.id}/moves/take-back`, { revision, text: 'Not yet' });
    await maren.post(`/deals/${deal.id}/steps/${run.seq}/take-back`, { text: 'Not yet' });
    await onDay(2);
    expect(await told(process, 0)).toMatchObject({ open: [1, 0], steps: [] });
    expect(await told(process, 0, THEN)).toMatchObject({ open: [0, 1], steps: [{ step: 'call', runs: 1 }] });
    expect(await told(process, 1, THEN)).toMatchObject({ open: [1, 0], steps: [] });
  });

  it('has, as it was known then, nothing that was written down since', async () => {
    const process = await publish('Written down late');
    await begin(process);
    await onDay(3);
    const csv = `Id,Deal,Stage,In stage since\nL1,Late,Survey,${dayOf(1)}\n`;
    const { body } = await maren.post(`/imports?fileName=late.csv&process=${process}`, csv, 201);
    await maren.post(`/imports/${body.import.id}/run`, body.preview.settings, 202);
    await expect.poll(async () => (await maren.get(`/imports/${body.import.id}`)).body.state).toBe('done');
    await onDay(4);
    expect(await told(process, 2)).toMatchObject({ started: 2, open: [1, 1] });
    expect(await told(process, 2, THEN)).toMatchObject({ started: 1, open: [1, 0] });
    expect(await told(process, 3, THEN)).toMatchObject({ started: 2, open: [1, 1] });
  });

  it('is of the version that was live at its end', async () => {
    const process = await publish('Versions');
    await begin(process);
    await onDay(1);
    expect((await maren.get(`/processes/${process}/movement?to=${dayOf(-1)}`)).body).toMatchObject({ version: null });
    expect((await maren.get(`/processes/${process}/movement?to=${dayOf(0)}`)).body).toMatchObject({
      version: { number: 1 },
    });
  });
});
