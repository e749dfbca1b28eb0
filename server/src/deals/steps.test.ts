import { randomUUID } from 'node:crypto';
import { guided, result } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  filled,
  PEOPLE,
  publishFirst,
  saveAndPublish,
  stage,
  startTestServer,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
let priya: Client;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
});
beforeEach(async () => {
  [priya, maren] = await Promise.all([test.as('priya'), test.as('maren')]);
});
afterAll(() => test.stop());

const book = guided('book', {
  due: { days: 3, counting: 'working', after: 'arrival' },
  captures: [{ field: 'area', need: 'must' }],
  results: [
    result('booked'),
    result('unanswered', { to: 'step', step: 'book' }, { captures: 'not_asked' }),
    result('unwanted', { to: 'outcome', outcome: 'lost', reason: null }, { captures: 'not_asked' }),
  ],
});
const check = guided('check', {
  who: { by: 'role', role: 'manager' },
  results: [result('passed', { to: 'move_on' }), result('back', { to: 'stage', stage: 'a' as never })],
});
const document = (name: string, steps = [book, check]) => ({
  ...DOCUMENT,
  name,
  skips: 'flag' as const,
  stages: [
    stage('a', 'Brief'),
    stage('b', 'Survey', { steps, leave: [{ id: 'f', level: 'flag', binds: 'at_move', kind: 'steps', of: 'b' }] }),
    stage('c', 'Design', { enter: [filled('crop', 'crop')] }),
  ],
});

const present = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}`)).body;
/** A deal in Survey, of a process of its own. */
async function inSurvey(name: string, values: object = {}) {
  const process = await publishFirst(maren, document(name));
  const { body: begun } = await priya.post('/deals', { process, name: 'Deal', values }, 201);
  const body = { target: { to: 'stage', stage: 'b' }, revision: begun.revision };
  return { process, deal: (await priya.post(`/deals/${begun.id}/moves`, body)).body.deal };
}
const republish = async (process: string, changed: ReturnType<typeof document>) => {
  await maren.post(`/processes/${process}/draft`, {}, 201);
  await saveAndPublish(maren, process, changed);
};
const end = (deal: Known, name: string, status = 200, more: object = {}, who = priya) =>
  who.post(
    `/deals/${deal.id}/steps/${deal.stepsAtHand[0]?.seq}/result`,
    { result: name, version: deal.version.id, captures: [], ...more },
    status,
  );
interface Known {
  readonly id: string;
  readonly version: { readonly id: string };
  readonly stepsAtHand: readonly { readonly seq: number }[];
}
const area = (value: number) => ({ captures: [{ field: 'area', saw: null, value }] });

describe('a step at hand', () => {
  it('tells whose it is and when it is due, and leads on with what was filled', async () => {
    const { deal } = await inSurvey('Leading on');
    expect(deal.stepsAtHand).toMatchObject([
      { step: 'book', stage: 'b', owed: false, daysLate: 0, doneBefore: 0, person: { name: 'Priya Nandan' } },
    ]);
    const { body } = await end(deal, 'booked', 200, area(300));
    expect(body).toMatchObject({
      move: null,
      deal: {
        values: { area: 300 },
        stepsAtHand: [{ step: 'check', person: null }],
        stepsDone: [{ step: 'book', how: 'result', resultName: 'booked', by: 'Priya Nandan', takeBack: true }],
      },
    });
    expect(await present(deal)).toMatchObject({ stepsAtHand: body.deal.stepsAtHand });
    const { body: journal } = await priya.get(`/deals/${deal.id}/journal`);
    expect(
      journal.items
        .slice(0, 2)
        .map(({ kind }: { kind: string }) => kind)
        .sort(),
    ).toEqual(['edited', 'step_ended']);
  });

  it('is late from the day after its due day, on the deal and on its card', async () => {
    const { deal, process } = await inSurvey('Late');
    test.clock.pass(9 * DAY);
    maren = await test.as('maren');
    const [run] = (await present(deal)).stepsAtHand;
    expect(run.daysLate).toBeGreaterThan(2);
    const { body } = await maren.get(`/deals?process=${process}`);
    expect(body.items[0].step).toMatchObject({ name: 'book', dueDay: run.dueDay, daysLate: run.daysLate });
    const { body: lanes } = await maren.get(`/processes/${process}/lanes`);
    expect(lanes.stages[1].cards[0].step).toEqual(body.items[0].step);
  });

  it('asks its must fields where they stand, and takes a value that does not fit no more than an edit does', async () => {
    const { deal } = await inSurvey('Asking');
    expect((await end(deal, 'booked', 400)).body.errors).toMatchObject([
      { pointer: '/captures/area', detail: 'Glazed area is needed for this result.' },
    ]);
    expect((await end(deal, 'booked', 400, area(-1))).body.errors).toMatchObject([{ pointer: '/captures/area' }]);
    expect((await end(deal, 'gone', 400)).body.errors).toMatchObject([{ pointer: '/result' }]);
    await maren.patch(`/deals/${deal.id}`, { changes: [{ field: 'area', saw: null, value: 9 }] });
    expect((await end(deal, 'booked', 409, area(300))).body.current).toEqual({ area: 9 });
    expect((await present(deal)).stepsAtHand).toMatchObject([{ step: 'book' }]);
  });

  it('ends once: for the same press again, for two who press at once, and not from a page that went stale', async () => {
    const { deal } = await inSurvey('Once', { area: 1 });
    const key = { 'Idempotency-Key': randomUUID() };
    const path = `/deals/${deal.id}/steps/${deal.stepsAtHand[0].seq}/result`;
    const body = { result: 'unanswered', version: deal.version.id, captures: [] };
    const first = await priya.post(path, body, 200, key);
    expect((await priya.post(path, body, 200, key)).body).toEqual(first.body);
    expect(first.body.deal.stepsAtHand).toMatchObject([{ step: 'book', doneBefore: 1 }]);
    const both = await Promise.all([
      end(first.body.deal, 'booked', 0),
      end(first.body.deal, 'unanswered', 0, {}, maren),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await end(deal, 'booked', 409)).body.detail).toContain('not at hand any more');
    expect((await present(deal)).stepsDone).toHaveLength(2);
  });

  it('is refused where the process was published meanwhile, for its results may lead elsewhere now', async () => {
    const { deal, process } = await inSurvey('Published meanwhile', { area: 1 });
    await republish(process, document('Published meanwhile', [book]));
    expect((await end(deal, 'booked', 409)).body.detail).toContain('Look where the results lead now');
    const now = await present(deal);
    expect(now.stepsAtHand).toMatchObject([{ step: 'book' }]);
    await end(now, 'booked');
  });
});

describe('a result that moves the deal', () => {
  it('moves it, or is kept with the verdict where the gate holds the move', async () => {
    const { deal } = await inSurvey('Moving', { area: 1 });
    const { body: booked } = await end(deal, 'booked');
    const { body: held } = await end(booked.deal, 'passed');
    expect(held).toMatchObject({
      move: { result: 'held', verdict: { items: expect.arrayContaining([expect.objectContaining({ id: 'crop' })]) } },
      deal: { stage: 'b', standing: 'held', stepsAtHand: [], attempt: { target: 'stage:c' } },
    });
    await priya.patch(`/deals/${deal.id}`, { changes: [{ field: 'crop', saw: null, value: 'herbs' }] });
    const { revision } = await present(deal);
    const { body: moved } = await priya.post(`/deals/${deal.id}/moves`, {
      target: { to: 'stage', stage: 'c' },
      revision,
    });
    expect(moved.deal).toMatchObject({ stage: 'c', standing: 'clear' });
  });

  it('asks what the move asks, and does nothing of it before', async () => {
    const { deal } = await inSurvey('Asking why', { area: 1 });
    const { body: booked } = await end(deal, 'booked');
    expect((await end(booked.deal, 'back', 422)).body.errors).toMatchObject([{ pointer: '/text' }]);
    expect((await present(deal)).stepsAtHand).toMatchObject([{ step: 'check' }]);
    expect((await end(booked.deal, 'back', 200, { text: 'Wrong site' })).body.deal.stage).toBe('a');
  });

  it('is taken back with it', async () => {
    const { deal } = await inSurvey('Back together', { area: 1 });
    const { body: booked } = await end(deal, 'booked');
    expect(booked.deal.stepsAtHand).toMatchObject([{ step: 'check' }]);
    const { body: undone } = await priya.post(`/deals/${deal.id}/steps/1/take-back`, {});
    expect(undone.stepsAtHand).toMatchObject([{ seq: 1, step: 'book' }]);
    const { body } = await end(undone, 'unwanted');
    expect(body.deal.status.state).toBe('lost');
    const { body: back } = await priya.post(`/deals/${deal.id}/steps/1/take-back`, { text: 'Wrong deal' });
    expect(back).toMatchObject({ status: { state: 'open' }, stage: 'b', stepsAtHand: [{ step: 'book' }] });
    await priya.post(`/deals/${deal.id}/steps/1/take-back`, {}, 409);
  });
});

describe('a step', () => {
  it('is put off with a reason, to a day that is not past', async () => {
    const { deal } = await inSurvey('Putting off');
    const due = `/deals/${deal.id}/steps/1/due`;
    expect((await priya.send('PUT', due, { day: '2020-01-01', text: 'Ill' }, 400)).body.errors[0].pointer).toBe('/day');
    await priya.send('PUT', due, { day: '9999-12-31', text: '' }, 400);
    const { body } = await priya.send('PUT', due, { day: '2199-12-31', text: 'They travel' }, 200);
    expect(body.stepsAtHand).toMatchObject([{ dueDay: '2199-12-31', daysLate: 0 }]);
  });

  it('is passed to who may change the deal, and to nobody else', async () => {
    const { deal } = await inSurvey('Passing');
    const pass = (name: string, status: number) =>
      priya.send('PUT', `/deals/${deal.id}/steps/1/person`, { person: PEOPLE[name]?.id }, status);
    expect((await pass('bea', 400)).body.errors).toMatchObject([{ pointer: '/person' }]);
    expect((await pass('lena', 400)).body.errors[0].detail).toContain('may not change “Deal”');
    const gone = { person: randomUUID() };
    await priya.send('PUT', `/deals/${deal.id}/steps/1/person`, gone, 400);
    expect((await pass('tomas', 200)).body.stepsAtHand).toMatchObject([{ person: { name: 'Tomas Verhey' } }]);
    await maren.patch(`/accounts/${PEOPLE.tomas?.id}`, { active: false });
    expect((await pass('tomas', 400)).body.errors[0].detail).toContain('has left');
    await maren.patch(`/accounts/${PEOPLE.tomas?.id}`, { active: true });
  });

  it('of a skipped stage is owed until it is done', async () => {
    const process = await publishFirst(maren, document('Owing'));
    const { body: begun } = await priya.post('/deals', { process, name: 'Deal', values: { crop: 'herbs' } }, 201);
    const body = { target: { to: 'stage', stage: 'c' }, revision: begun.revision };
    const { deal } = (await priya.post(`/deals/${begun.id}/moves`, body)).body;
    expect(deal).toMatchObject({ stage: 'c', standing: 'flagged', stepsAtHand: [{ step: 'book', owed: true }] });
    const { body: booked } = await end(deal, 'booked', 200, area(5));
    const { body: done } = await end(booked.deal, 'passed');
    expect(done).toMatchObject({ move: null, deal: { stage: 'c', stepsAtHand: [], standing: 'clear' } });
  });

  it('begins for deals in a stage that a publish gives steps to', async () => {
    const process = await publishFirst(maren, document('None yet', []));
    const { body: begun } = await priya.post('/deals', { process, name: 'Deal', values: {} }, 201);
    const body = { target: { to: 'stage', stage: 'b' }, revision: begun.revision };
    const { deal } = (await priya.post(`/deals/${begun.id}/moves`, body)).body;
    expect(deal.stepsAtHand).toEqual([]);
    await republish(process, document('None yet'));
    expect((await present(deal)).stepsAtHand).toMatchObject([{ step: 'book' }]);
  });
});

describe('actions of a result', () => {
  it('are carried out with it, and undone with it where what they set still stands', async () => {
    const acting = guided('act', {
      results: [
        result(
          'done',
          { to: 'finish' },
          {
            actions: [
              { do: 'set_field', field: 'area', set: { to: 'value', value: 77 } },
              { do: 'set_field', field: 'close_date', set: { to: 'today' } },
              { do: 'note', text: 'Seen' },
            ],
          },
        ),
      ],
    });
    const process = await publishFirst(maren, document('Acting', [acting]));
    const { body: begun } = await priya.post('/deals', { process, name: 'Deal', values: { area: 5 } }, 201);
    const to = { target: { to: 'stage', stage: 'b' }, revision: begun.revision };
    const { deal } = (await priya.post(`/deals/${begun.id}/moves`, to)).body;
    const { body: done } = await end(deal, 'done');
    expect(done.deal.values).toMatchObject({ area: 77, close_date: expect.stringMatching(/^\d{4}-/) });
    await priya.patch(`/deals/${deal.id}`, {
      changes: [{ field: 'close_date', saw: done.deal.values.close_date, value: '2027-01-09' }],
    });
    const { body: back } = await priya.post(`/deals/${deal.id}/steps/1/take-back`, {});
    expect(back).toMatchObject({ values: { area: 5, close_date: '2027-01-09' }, stepsAtHand: [{ step: 'act' }] });
    const { body: journal } = await priya.get(`/deals/${deal.id}/journal`);
    expect(journal.items[0].says.map(({ text }: { text: string }) => text).join('')).toContain(
      'Close date stays as changed since',
    );
    expect(journal.items.find(({ kind }: { kind: string }) => kind === 'step_noted').text).toBe('Seen');
  });
});

describe('a document', () => {
  const draftWith = async (name: string, steps: object[]) => {
    const process = await publishFirst(maren, document(name));
    const { body } = await maren.post(`/processes/${process}/draft`, {}, 201);
    const wrong = {
      ...document(name),
      stages: document(name).stages.map((one) => ({ ...one, steps: one.id === 'b' ? steps : [] })),
    };
    return { process, revision: body.revision, wrong };
  };
  const save = async (name: string, steps: object[], status: number) => {
    const { process, revision, wrong } = await draftWith(name, steps);
    const path = `/processes/${process}/draft`;
    const answer = await maren.send('PUT', path, { document: wrong }, status, { 'If-Match': `"${revision}"` });
    return { process, body: answer.body };
  };

  it('with a due day of -1 or 10,000, or 200 steps, is not taken', async () => {
    const due = (days: number) => ({ ...book, due: { ...book.due, days } });
    expect((await save('Minus', [due(-1)], 400)).body.errors[0].pointer).toBe('/document/stages/1/steps/0/due/days');
    await save('Far off', [due(10_000)], 400);
    const many = Array.from({ length: 200 }, (_none, place) => ({ ...book, id: `s${place}`, name: `Step ${place}` }));
    expect((await save('Many', many, 400)).body.errors[0].pointer).toBe('/document/stages/1/steps');
  });

  it('with two steps of one name, a field that is gone, or a result that leads nowhere is told so before publishing', async () => {
    const wrong = [
      { ...book, captures: [{ field: 'gone', need: 'must' }] },
      { ...book, id: 'other', results: [result('lost', { to: 'step', step: 'nowhere' })] },
      guided('endless', { results: [] }),
    ];
    const { process } = await save('Wrong', wrong, 200);
    const { body } = await maren.get(`/processes/${process}/draft/preview`);
    expect(body.problems.map(({ pointer }: { pointer: string }) => pointer)).toEqual([
      '/stages/1/steps/1/name',
      '/stages/1/steps/0/captures/0/field',
      '/stages/1/steps/1/results/0/leads/step',
      '/stages/1/steps/2/results',
    ]);
  });
});
