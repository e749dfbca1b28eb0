import { type ProcessDocument, type Stage, USUAL_OUTCOMES } from '@ladder/core';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY, MINUTE } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
import {
  DOCUMENT,
  filled,
  publishFirst,
  saveAndPublish,
  stage,
  startTestServer,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
});
beforeEach(async () => {
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const again = { id: 'again', text: 'Site walked', need: 'must', level: 'hold', afterReturn: 'again' } as const;
const STAGES: readonly Stage[] = [
  stage('a', 'Brief', { leave: [filled('a1', 'area')] }),
  stage('b', 'Survey', { enter: [filled('b1', 'crop')], checklist: [again] }),
  stage('c', 'Design', { enter: [filled('c1', 'value', 'flag')] }),
];
const REASONS = [
  { id: 'design', outcome: 'won', name: 'Best design', followUp: 'not_asked', withdrawn: 'no' },
  { id: 'later', outcome: 'lost', name: 'Not this year', followUp: 'asked', withdrawn: 'no' },
  { id: 'old', outcome: 'lost', name: 'No longer offered', followUp: 'not_asked', withdrawn: 'yes' },
];

async function process(name: string, rules: Partial<ProcessDocument>): Promise<string> {
  const id = await publishFirst(maren, {
    ...DOCUMENT,
    name,
    stages: STAGES,
    outcomes: USUAL_OUTCOMES.deal,
    ...rules,
  });
  await maren.patch(`/processes/${id}`, { reasons: REASONS });
  return id;
}
const begin = async (in_: string, values: object = {}) =>
  (await maren.post('/deals', { process: in_, name: 'Deal', values }, 201)).body;
const present = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}`)).body;
const go = async (deal: { id: string }, target: object, expected = 200, more: object = {}) => {
  const { revision } = await present(deal);
  return (await maren.post(`/deals/${deal.id}/moves`, { target, revision, ...more }, expected)).body;
};
const to = (id: string) => ({ to: 'stage', stage: id });
const kinds = ({ findings }: { findings: { kind: string; level: string }[] }) =>
  findings.map(({ kind, level }) => `${kind} ${level}`).sort();
const pointers = ({ errors }: { errors: { pointer: string }[] }) => errors.map(({ pointer }) => pointer);

describe('a skip (S8)', () => {
  it('in a process that allows it asks nothing of what lies between', async () => {
    const deal = await begin(await process('Skips allowed', { skips: 'allow' }), { area: 1 });
    const { deal: moved } = await go(deal, to('c'));
    expect(moved).toMatchObject({ stage: 'c', standing: 'flagged' });
    expect(kinds(moved)).toEqual(['field flag']);
  });

  it('in a process that flags it passes, and what it jumped over is owed until it is met', async () => {
    const deal = await begin(await process('Skips flagged', { skips: 'flag' }), { area: 1 });
    const { deal: moved } = await go(deal, to('c'));
    expect(kinds(moved)).toEqual(['checklist flag', 'field flag', 'field flag', 'skipped flag']);
    await maren.patch(`/deals/${deal.id}`, { changes: [{ field: 'crop', saw: null, value: 'herbs' }] });
    await maren.post(`/deals/${deal.id}/ticks`, { item: 'again', state: 'ticked' });
    expect(kinds(await present(deal))).toEqual(['field flag']);
  });

  it('in a process that holds it is refused until what lies between is met', async () => {
    const deal = await begin(await process('Skips held', { skips: 'hold' }), { area: 1 });
    const problem = await go(deal, to('c'), 422);
    expect(problem.verdict.items.filter(({ passedOver }: { passedOver: boolean }) => passedOver)).toMatchObject([
      { id: 'b1', level: 'hold', state: 'missing' },
      { id: 'again', level: 'hold', state: 'unmet' },
    ]);
    await maren.patch(`/deals/${deal.id}`, { changes: [{ field: 'crop', saw: null, value: 'herbs' }] });
    await maren.post(`/deals/${deal.id}/ticks`, { item: 'again', state: 'ticked' });
    expect((await go(deal, to('c'))).deal.stage).toBe('c');
  });
});

describe('going back (S7, S9)', () => {
  it('asks why, passes no gate, begins a new stay, and keeps ticks but those that are asked again', async () => {
    const deal = await begin(await process('Returns', { returns: 'flag' }), { area: 1, crop: 'herbs' });
    await go(deal, to('b'));
    await maren.post(`/deals/${deal.id}/ticks`, { item: 'again', state: 'ticked' });
    await go(deal, to('c'));
    test.clock.pass(3 * DAY);
    maren = await test.as('maren');
    expect(pointers(await go(deal, to('b'), 422))).toEqual(['/text']);
    const { deal: back } = await go(deal, to('b'), 200, { text: 'The site changed' });
    expect(back).toMatchObject({ stage: 'b', age: 0, standing: 'flagged' });
    expect(kinds(back)).toContain('returned flag');
    expect(back.gate.items.find(({ id }: { id: string }) => id === 'again').state).toBe('unmet');
    expect(back.visits.map((visit: { stage: string }) => visit.stage)).toEqual(['a', 'b', 'c', 'b']);
  });

  it('where the process holds it is only for an administrator’s force', async () => {
    const deal = await begin(await process('Returns held', { returns: 'hold' }), { area: 1, crop: 'herbs' });
    await go(deal, to('b'));
    const problem = await go(deal, to('a'), 422, { text: 'Back' });
    expect(problem.verdict.items).toMatchObject([{ remedy: { kind: 'decide' }, state: 'unmet' }]);
    expect((await go(deal, to('a'), 200, { text: 'Decided', mode: 'force' })).deal.stage).toBe('a');
  });
});

describe('closing', () => {
  it('as lost asks a reason that is offered, and its follow-up day', async () => {
    const deal = await begin(await process('Lost', {}), {});
    const close = (more: object, expected = 422) => go(deal, { to: 'outcome', outcome: 'lost' }, expected, more);
    expect(pointers(await close({}))).toEqual(['/reason']);
    expect(pointers(await close({ reason: 'old' }))).toEqual(['/reason']);
    expect(pointers(await close({ reason: 'design' }))).toEqual(['/reason']);
    expect(pointers(await close({ reason: 'later' }))).toEqual(['/followUp']);
    await close({ reason: 'later', followUp: '2027-02-30' }, 400);
    const { deal: lost } = await close({ reason: 'later', followUp: '2027-03-01' }, 200);
    expect(lost).toMatchObject({ status: { state: 'lost', reason: 'later', followUp: '2027-03-01' }, findings: [] });
  });

  it('is taken back like any move, and the deal stands where it stood', async () => {
    const deal = await begin(await process('Closed by mistake', {}), { area: 1 });
    await go(deal, { to: 'outcome', outcome: 'won' }, 422);
    const { deal: won } = await go(deal, { to: 'outcome', outcome: 'won' }, 200, {
      reason: 'design',
      mode: 'force',
      text: 'It is signed',
    });
    expect(won.status.state).toBe('won');
    test.clock.pass(5 * MINUTE);
    const { body } = await maren.post(`/deals/${deal.id}/moves/take-back`, { revision: won.revision });
    expect(body).toMatchObject({ status: { state: 'open' }, stage: 'a', visits: [{ stage: 'a', leftDay: null }] });
    await go(deal, to('a'), 422);
  });

  it('leaves no task for the gate: a closed deal is neither moved, ticked nor edited', async () => {
    const deal = await begin(await process('Closed', {}), {});
    await go(deal, { to: 'outcome', outcome: 'lost' }, 200, { reason: 'later', followUp: '2027-03-01' });
    await go(deal, to('b'), 409);
    await maren.post(`/deals/${deal.id}/ticks`, { item: 'again', state: 'ticked' }, 409);
    await maren.patch(`/deals/${deal.id}`, { name: 'New name', changes: [] }, 409);
    await maren.get(`/deals/${deal.id}/gate?to=outcome&outcome=won`, 409);
  });
});

describe('an attempt (S13, S16)', () => {
  it('ends when the deal goes another way', async () => {
    const deal = await begin(await process('Attempts', { skips: 'hold' }), { area: 1, crop: 'herbs' });
    await go(deal, to('c'), 422);
    expect((await present(deal)).standing).toBe('held');
    const { deal: moved } = await go(deal, to('b'));
    expect(moved).toMatchObject({ standing: 'clear', attempt: null });
  });

  it('is kept with who tried, and given up by whoever works the deal', async () => {
    const deal = await begin(await process('Given up', {}));
    await go(deal, to('b'), 422);
    expect(await present(deal)).toMatchObject({ attempt: { target: 'stage:b', by: 'Maren Holt' } });
    const { body } = await maren.send('DELETE', `/deals/${deal.id}/attempt`, undefined, 200);
    expect(body).toMatchObject({ attempt: null, standing: 'clear' });
  });
});

describe('a note, a call, a meeting', () => {
  it('does not raise the revision, so that an open form can still be sent', async () => {
    const deal = await begin(await process('Notes', {}));
    const { body } = await maren.post(`/deals/${deal.id}/activities`, { kind: 'call', text: 'Rang them' }, 201);
    expect(body.revision).toBe(deal.revision);
  });

  it('may have happened earlier, not later, and ends idleness from when it happened', async () => {
    const id = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Idle',
      stages: [stage('only', 'Only', { idleDays: 3 })],
    });
    await maren.patch(`/processes/${id}`, {
      houseRules: { past_target: 'off', idle: 'flag', close_date_past: 'off', no_next_action: 'off', step_late: 'off' },
    });
    const deal = await begin(id);
    test.clock.pass(5 * DAY);
    maren = await test.as('maren');
    expect(kinds(await present(deal))).toEqual(['idle flag']);
    const call = (daysAgo: number, expected: number) =>
      maren.post(
        `/deals/${deal.id}/activities`,
        { kind: 'call', text: 'x', happenedAt: new Date(test.clock.now() - daysAgo * DAY).toISOString() },
        expected,
      );
    await call(-1, 400);
    await call(4, 201);
    expect(kinds(await present(deal))).toEqual(['idle flag']);
    await call(1, 201);
    expect(kinds(await present(deal))).toEqual([]);
  });
});

it('a call that is written down late goes in between the two around it (S22)', async () => {
  const deal = await begin(await process('Late calls', {}));
  const start = test.clock.now();
  test.clock.pass(9 * DAY);
  maren = await test.as('maren');
  const call = (day: number) =>
    maren.post(
      `/deals/${deal.id}/activities`,
      { kind: 'call', text: 'x', happenedAt: new Date(start + day * DAY).toISOString() },
      201,
    );
  for (const day of [2, 8, 5, 1]) await call(day);
  const { rows } = await asOwner(
    test.database,
    'select happened_at as at, previous_at as before from activities where deal_id = $1 order by happened_at',
    [deal.id],
  );
  const days = (instant: Date | null) => instant && (instant.getTime() - start) / DAY;
  expect(rows.map(({ at, before }) => [days(at), days(before)])).toEqual([
    [1, null],
    [2, 1],
    [5, 2],
    [8, 5],
  ]);
});

describe('while a version is being published', () => {
  it('a move waits, and after five seconds is told to try again with nothing lost (S38)', async () => {
    const deal = await begin(await process('Published just now', {}), { area: 1, crop: 'herbs' });
    const publisher = new pg.Client({ connectionString: test.database.ownerUrl });
    await publisher.connect();
    await publisher.query('begin');
    await publisher.query('select from deal_heads where deal_id = $1 for update', [deal.id]);
    const problem = await go(deal, to('b'), 503);
    expect(problem.detail).toMatch(/a version is being published.*try again/);
    await publisher.query('commit');
    await publisher.end();
    expect(await present(deal)).toMatchObject({ stage: 'a', revision: deal.revision });
    expect((await go(deal, to('b'))).deal.stage).toBe('b');
  });

  it('a deal on an older version goes by that version’s gates, and says so', async () => {
    const id = await process('Two versions', {});
    const deal = await begin(id, { area: 1 });
    await maren.post(`/processes/${id}/draft`, {}, 201);
    const stages = STAGES.map((one) => (one.id === 'b' ? { ...one, enter: [] } : one));
    await saveAndPublish(maren, id, { ...DOCUMENT, name: 'Two versions', stages }, { deals: 'stay' });
    expect(await present(deal)).toMatchObject({ version: { number: 1, state: 'in_use' } });
    await go(deal, to('b'), 422);
    const later = await begin(id, { area: 1 });
    expect((await go(later, to('b'))).deal).toMatchObject({ stage: 'b', version: { number: 2 } });
    expect((await maren.get(`/processes/${id}/compliance`)).body.olderVersions).toBe(1);
  });
});

describe('a lead process', () => {
  const beginLead = async () => {
    const { body: made } = await maren.post(
      '/processes',
      { name: 'Enquiries', kind: 'lead', currency: 'GBP', firstStage: 'New' },
      201,
    );
    const { body: draft } = await maren.get(`/processes/${made.id}/draft`);
    await maren.post(`/processes/${made.id}/draft/publish`, { deals: 'move_over', graceDays: 0, transfers: {} }, 200, {
      'If-Match': `"${draft.revision}"`,
    });
    return made.id as string;
  };

  it('ends qualified or disqualified, told by those names and counted as won and lost', async () => {
    const process = await beginLead();
    const reasons = [{ id: 'fits', outcome: 'qualified', name: 'Fits us', followUp: 'not_asked', withdrawn: 'no' }];
    await maren.patch(`/processes/${process}`, { reasons });
    const strange = await maren.patch(`/processes/${process}`, { reasons: [{ ...reasons[0], outcome: 'won' }] }, 400);
    expect(strange.body.errors[0].pointer).toBe('/reasons/0/outcome');
    const { body: lead } = await maren.post('/deals', { process, name: 'A school asks', values: {} }, 201);
    const close = (outcome: string, more: object, expected: number) =>
      maren.post(
        `/deals/${lead.id}/moves`,
        { target: { to: 'outcome', outcome }, revision: lead.revision, ...more },
        expected,
      );
    expect((await close('won', {}, 422)).body.errors[0].pointer).toBe('/target/outcome');
    expect((await close('qualified', {}, 422)).body.errors[0].pointer).toBe('/reason');
    const { body } = await close('qualified', { reason: 'fits' }, 200);
    expect(body.deal.status).toMatchObject({ state: 'won', outcome: 'qualified', reason: 'fits' });
    const { body: journal } = await maren.get(`/deals/${lead.id}/journal`);
    expect(journal.items[0].says.map(({ text }: { text: string }) => text).join('')).toBe('Closed as qualified');
    const { body: lanes } = await maren.get(`/processes/${process}/lanes`);
    expect(lanes.outcomes).toMatchObject([
      { id: 'qualified', name: 'Qualified', counts: 'won', count: 1, reasons: 1 },
      { id: 'disqualified', name: 'Disqualified', counts: 'lost', count: 0, reasons: 0 },
    ]);
    expect((await maren.get(`/processes/${process}/movement`)).body).toMatchObject({ won: 1, lost: 0 });
  });
});
