import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import {
  DOCUMENT,
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
  [priya, maren] = await Promise.all([test.as('priya'), test.as('maren')]);
});
afterAll(() => test.stop());

const VISIT = {
  id: 'visit',
  name: 'Before a visit',
  afterReturn: 'keep' as const,
  tasks: [
    { id: 'map', title: 'Send the map', who: { by: 'owner' as const }, due: { days: 2, counting: 'working' as const } },
    { id: 'bed', title: 'Book a bed', who: { by: 'nobody' as const }, due: { days: 0, counting: 'calendar' as const } },
  ],
};
const document = (name: string) => ({
  ...DOCUMENT,
  name,
  returns: 'allow' as const,
  stages: [
    stage('a', 'Brief'),
    stage('b', 'Survey', { arrival: [{ do: 'add_tasks' as const, set: 'visit' }] }),
    stage('c', 'Design'),
  ],
  taskSets: [VISIT],
});
const RING = { title: 'Ring back', assignee: PEOPLE.priya?.id ?? null, dueDay: '2026-11-26', dueTime: '14:00' };
const begin = async (process = test.process) =>
  (await priya.post('/deals', { process, name: 'Deal', values: {} }, 201)).body;
const withTask = async (process = test.process) => {
  const { id } = await begin(process);
  return (await priya.post(`/deals/${id}/tasks`, RING, 201)).body;
};
const at = (deal: { id: string }, what: string) => `/deals/${deal.id}/tasks/1/${what}`;
const put = (deal: { id: string }, what: string, body: object, status = 200, who = priya) =>
  who.send('PUT', at(deal, what), body, status);

describe('a task', () => {
  it('is added, put off, passed, called otherwise, done and done again, each told in the journal', async () => {
    const deal = await withTask();
    expect(deal.tasks).toMatchObject([
      { seq: 1, title: 'Ring back', person: { name: 'Priya Nandan' }, dueTime: '14:00', daysLate: 0, end: null },
    ]);
    await put(deal, 'due', { day: '2026-12-01', text: 'They are away' });
    await put(deal, 'person', { person: PEOPLE.tomas?.id });
    await put(deal, 'title', { title: 'Ring them' });
    const { body: done } = await put(deal, 'end', { how: 'done' });
    expect(done.tasks).toMatchObject([
      { title: 'Ring them', dueDay: '2026-12-01', dueTime: null, end: { how: 'done', by: 'Priya Nandan' } },
    ]);
    expect(done.revision).toBe(deal.revision);
    const { body: again } = await priya.send('DELETE', at(deal, 'end'), undefined, 200);
    expect(again.tasks).toMatchObject([{ end: null, person: { name: 'Tomas Verhey' } }]);
    const { body: journal } = await priya.get(`/deals/${deal.id}/journal`);
    expect(journal.items.slice(0, 6).map((entry: { kind: string; text: string }) => [entry.kind, entry.text])).toEqual([
      ['task_reopened', 'Ring them'],
      ['task_ended', 'Ring them'],
      ['task_renamed', 'Ring them'],
      ['task_passed', 'Ring back'],
      ['task_put_off', 'They are away'],
      ['task_added', 'Ring back'],
    ]);
  });

  it('is refused where it was asked: no such day, no title, a day that is past, nobody who could do it', async () => {
    const deal = await withTask();
    const wrong = async (answer: Promise<{ body: { errors?: { pointer: string; detail: string }[] } }>) =>
      (await answer).body.errors?.map(({ pointer, detail }) => `${pointer}: ${detail}`).join();
    const add = (more: object, status = 400) =>
      wrong(priya.post(`/deals/${deal.id}/tasks`, { ...RING, ...more }, status));
    expect(await add({ dueDay: '2027-02-30' })).toContain('/dueDay: Must be a date that exists');
    expect(await add({ dueDay: '9999-01-01' })).toContain('/dueDay: Must lie between');
    expect(await add({ dueTime: '25:00' })).toContain('/dueTime: DueTime must be a time of day, as 14:00');
    expect(await add({ title: '' })).toContain('/title');
    expect(await add({ title: '   ' }, 400)).toContain('/title: Say what is to be done.');
    expect(await add({ assignee: PEOPLE.bea?.id }, 400)).toContain('/assignee: Bea Ferrant may not change');
    expect(await add({ assignee: randomUUID() }, 400)).toContain('/assignee: There is no such person.');
    expect(await wrong(put(deal, 'due', { day: '2020-01-01', text: 'x' }, 400))).toContain('/day: Choose today');
    await put(deal, 'end', { how: 'withdrawn' }, 400);
    await put(deal, 'end', { how: 'done' });
    await put(deal, 'end', { how: 'done' }, 409);
    expect((await priya.get(`/deals/${deal.id}`)).body.tasks).toHaveLength(1);
  });

  it('is added once by a press that is sent twice, and by two people at once twice', async () => {
    const { id } = await begin();
    const press = { 'Idempotency-Key': randomUUID() };
    await Promise.all([1, 2].map(() => priya.post(`/deals/${id}/tasks`, RING, 201, press)));
    expect((await priya.get(`/deals/${id}`)).body.tasks).toHaveLength(1);
    const oskar = await test.as('tomas');
    await Promise.all([priya, oskar].map((who) => who.post(`/deals/${id}/tasks`, RING, 201)));
    expect((await priya.get(`/deals/${id}`)).body.tasks.map(({ seq }: { seq: number }) => seq)).toEqual([1, 2, 3]);
    const answers = await Promise.all(
      [priya, oskar].map((who) => who.send('PUT', `/deals/${id}/tasks/1/end`, { how: 'done' }, 0)),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('loses its words where they are erased, and keeps its day', async () => {
    const deal = await withTask();
    const { body: journal } = await priya.get(`/deals/${deal.id}/journal`);
    const { body } = await maren.send(
      'DELETE',
      `/deals/${deal.id}/journal/${journal.items[0].seq}/text`,
      undefined,
      200,
    );
    expect(body.tasks).toMatchObject([{ title: '', dueDay: '2026-11-26' }]);
    expect((await priya.get(`/deals/${deal.id}`)).body.tasks).toEqual(body.tasks);
  });
});

describe('open tasks of a deal that closes', () => {
  const close = (deal: { id: string; revision: number }, more: object, status: number) =>
    priya.post(
      `/deals/${deal.id}/moves`,
      { target: { to: 'outcome', outcome: 'lost' }, revision: deal.revision, ...more },
      status,
    );

  it('are asked for, kept or cancelled, and open again as the closing is taken back', async () => {
    const deal = await withTask();
    const { body: asked } = await close(deal, {}, 422);
    expect(asked.errors).toMatchObject([{ pointer: '/tasks' }]);
    const { body } = await close(deal, { tasks: 'cancel' }, 200);
    expect(body.deal.tasks).toMatchObject([{ end: { how: 'cancelled' } }]);
    const back = await priya.post(`/deals/${deal.id}/moves/take-back`, { revision: body.deal.revision }, 200);
    expect(back.body.tasks).toMatchObject([{ end: null }]);
  });

  it('are what the process says, changed at once and logged', async () => {
    const process = await publishFirst(maren, document('Cancelling'));
    const { body: changed } = await maren.patch(`/processes/${process}`, {
      taskFates: { forward: 'ask', return: 'keep', closing: 'cancel' },
    });
    expect(changed.taskFates.closing).toBe('cancel');
    const deal = await withTask(process);
    const move = { target: { to: 'stage', stage: 'c' }, revision: deal.revision };
    const { body: asked } = await priya.post(`/deals/${deal.id}/moves`, move, 422);
    expect(asked.errors).toMatchObject([{ pointer: '/tasks' }]);
    const { body } = await close(deal, {}, 200);
    expect(body.deal.tasks).toMatchObject([{ end: { how: 'cancelled' } }]);
    await priya.patch(
      `/processes/${process}`,
      { taskFates: { forward: 'keep', return: 'keep', closing: 'keep' } },
      403,
    );
  });
});

describe('a set of tasks', () => {
  it('is used on arrival, and by hand; one that is gone is refused, and cannot be published while it is used', async () => {
    const process = await publishFirst(maren, document('Sets'));
    const begun = await begin(process);
    const move = { target: { to: 'stage', stage: 'b' }, revision: begun.revision };
    const { deal } = (await priya.post(`/deals/${begun.id}/moves`, move)).body;
    expect(deal.tasks).toMatchObject([
      { title: 'Book a bed', person: null, set: 'Before a visit', dueDay: '2026-11-24' },
      { title: 'Send the map', person: { name: 'Priya Nandan' }, dueDay: '2026-11-26' },
    ]);
    const { body: more } = await priya.post(`/deals/${deal.id}/task-sets`, { set: 'visit' }, 201);
    expect(more.tasks).toHaveLength(4);
    await priya.post(`/deals/${deal.id}/task-sets`, { set: 'gone' }, 400);
    await maren.post(`/processes/${process}/draft`, {}, 201);
    const without = { ...document('Sets'), taskSets: [] };
    await expect(saveAndPublish(maren, process, without)).rejects.toThrow();
    const { body: preview } = await maren.get(`/processes/${process}/draft/preview`);
    expect(preview.problems).toMatchObject([{ pointer: '/stages/1/arrival/0/set' }]);
  });
});

it('a next action is set with the move, in one change, and what is wrong with it is told at its place', async () => {
  const process = await publishFirst(maren, {
    ...document('Next actions'),
    taskSets: [],
    stages: [stage('a', 'A'), stage('b', 'B')],
  });
  const deal = await begin(process);
  const move = { target: { to: 'stage', stage: 'b' }, revision: deal.revision };
  const change = (value: unknown) => [
    { field: 'next_action', saw: null, value: 'Send the drawings' },
    { field: 'next_action_day', saw: null, value },
  ];
  const { body: refused } = await priya.post(
    `/deals/${deal.id}/moves`,
    { ...move, changes: change('2026-02-30') },
    400,
  );
  expect(refused.errors).toMatchObject([{ pointer: '/changes/1/value' }]);
  const { body } = await priya.post(`/deals/${deal.id}/moves`, { ...move, changes: change('2026-12-01') }, 200);
  expect(body.deal).toMatchObject({
    stage: 'b',
    revision: deal.revision + 1,
    values: { next_action_day: '2026-12-01' },
  });
});
