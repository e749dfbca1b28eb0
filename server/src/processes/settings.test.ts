import { USUAL_OUTCOMES } from '@ladder/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DOCUMENT, publishFirst, saveAndPublish, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const begin = (name: string, expected = 201, more: object = {}) =>
  maren.post('/processes', { name, kind: 'deal', currency: 'GBP', firstStage: 'One', ...more }, expected);
const pointers = (body: { errors: { pointer: string }[] }) => body.errors.map(({ pointer }) => pointer);
const reason = (id: string, name: string, more: object = {}) => ({
  id,
  outcome: 'won',
  name,
  followUp: 'not_asked',
  withdrawn: 'no',
  ...more,
});

describe('a process that begins with more than a stage', () => {
  it('of a starting point works as it is, and says nothing that the design check minds', async () => {
    for (const start of ['short_sale', 'considered_sale', 'renewal']) {
      const { body: process } = await begin(start, 201, { firstStage: undefined, from: { as: 'start', start } });
      const { body: draft } = await maren.get(`/processes/${process.id}/draft`);
      const preview = (await maren.get(`/processes/${process.id}/draft/preview`)).body;
      expect([draft.document.stages.length > 2, preview.problems]).toEqual([true, []]);
      const counts = (await maren.get('/design-check')).body.items;
      expect(counts).toContainEqual({ process: process.id, problems: 0, warnings: 0 });
    }
  });

  it('as a copy has everything of it under ids of its own, and what is set beside its versions', async () => {
    const set = { houseRules: { past_target: 'flag' }, reasons: [reason('price', 'Price')] };
    const rules = Object.fromEntries(
      ['idle', 'close_date_past', 'no_next_action', 'step_late'].map((rule) => [rule, 'off']),
    );
    await maren.patch(`/processes/${test.process}`, { ...set, houseRules: { ...rules, ...set.houseRules } });
    const from = { as: 'copy', process: test.process };
    const { body: copy } = await begin('A copy', 201, { firstStage: undefined, from });
    expect(copy).toMatchObject({ kind: 'deal', houseRules: { past_target: 'flag' }, reasons: [{ id: 'price' }] });
    const { document } = (await maren.get(`/processes/${copy.id}/draft`)).body;
    expect(document.stages.map(({ name }: { name: string }) => name)).toEqual(DOCUMENT.stages.map(({ name }) => name));
    const ids = document.stages.map(({ id }: { id: string }) => id);
    expect(ids.filter((id: string) => DOCUMENT.stages.some((stage) => stage.id === id))).toEqual([]);
    expect((await maren.get(`/processes/${copy.id}/draft/preview`)).body.problems).toEqual([]);
    const gone = { as: 'copy', process: '01900000-0000-7000-8000-0000000fffff' };
    expect(pointers((await begin('Of none', 422, { firstStage: undefined, from: gone })).body)).toEqual([
      '/from/process',
    ]);
    expect(pointers((await begin('Of nothing', 400, { firstStage: undefined })).body)).toEqual(['/firstStage']);
  });
});

describe('a process', () => {
  it('begins bare: one stage, nothing asked, and works as it is once published', async () => {
    const { body: process } = await begin('Bare');
    expect(process).toMatchObject({ name: 'Bare', hasDraft: true, live: null, closedToNew: false });
    const { body: draft } = await maren.get(`/processes/${process.id}/draft`);
    expect(draft.document).toMatchObject({
      skips: 'allow',
      returns: 'allow',
      stages: [{ name: 'One', enter: [], leave: [], checklist: [], target: null }],
    });
    await maren.post('/deals', { process: process.id, name: 'Too early', values: {} }, 422);
    await maren.send(
      'POST',
      `/processes/${process.id}/draft/publish`,
      { deals: 'stay', graceDays: 0, transfers: {} },
      200,
      { 'If-Match': `"${draft.revision}"` },
    );
    const { body: deal } = await maren.post('/deals', { process: process.id, name: 'Now', values: {} }, 201);
    expect(deal.standing).toBe('clear');
    const moved = await maren.post(`/deals/${deal.id}/moves`, {
      target: { to: 'outcome', outcome: 'won' },
      revision: deal.revision,
    });
    expect(moved.body.deal.status.state).toBe('won');
  });

  it('has a name of its own, whatever its case, and a currency that exists', async () => {
    await begin('Twice');
    expect((await begin('TWICE', 409)).body.detail).toBe('There is already a process with this name.');
    expect(pointers((await begin('Other', 400, { currency: 'pounds' })).body)).toEqual(['/currency']);
    expect(pointers((await begin('', 400, { firstStage: '' })).body).sort()).toEqual(['/firstStage', '/name']);
  });

  it('is listed by name, page by page, with its open deals and versions', async () => {
    await maren.post('/deals', { process: test.process, name: 'Open', values: {} }, 201);
    const listed: { name: string; id: string; openDeals: number; stages: number; live: object | null }[] = [];
    for (let next: string | null = ''; next !== null; ) {
      const { body } = await maren.get(`/processes?limit=2${next ? `&after=${next}` : ''}`);
      listed.push(...body.items);
      next = body.next;
    }
    const names = listed.map(({ name }) => name);
    expect(names).toEqual(names.toSorted((a, b) => a.localeCompare(b, 'en')));
    expect(new Set(names).size).toBe(names.length);
    expect(listed.find(({ id }) => id === test.process)).toMatchObject({
      openDeals: 1,
      stages: 3,
      live: { number: 1 },
    });
    expect(listed.find(({ name }) => name === 'Twice')).toMatchObject({ openDeals: 0, live: null });
  });

  it('is listed with as many queries as others are listed with it', async () => {
    const query = vi.spyOn(pg.Client.prototype, 'query');
    const queriesFor = async (limit: number) => {
      query.mockClear();
      const { body } = await maren.get(`/processes?limit=${limit}`);
      expect(body.items).toHaveLength(limit);
      return query.mock.calls.filter(([statement]) => /process_versions|processes/.test(JSON.stringify(statement)))
        .length;
    };
    const forOne = await queriesFor(1);
    expect(forOne).toBeGreaterThan(0);
    expect(await queriesFor(3)).toBe(forOne);
    query.mockRestore();
  });

  it('shows each version as it was published, and drafts to administrators alone', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Versions' });
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(maren, process, { ...DOCUMENT, name: 'Versions', purpose: 'The second' });
    const lena = await test.as('lena');
    const version = async (number: number) => (await lena.get(`/processes/${process}/versions/${number}`)).body;
    expect((await version(1)).document.purpose).toBe('');
    expect((await version(2)).document.purpose).toBe('The second');
    await lena.get(`/processes/${process}/versions/3`, 404);
    await lena.get(`/processes/${process}/draft`, 403);
    await maren.get(`/processes/${process}/draft`, 404);
  });
});

describe('reasons (S26)', () => {
  it('are renamed, withdrawn and kept where they were used', async () => {
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Reasons',
      outcomes: USUAL_OUTCOMES.deal,
      skips: 'allow',
    });
    const set = async (reasons: object[], expected = 200) =>
      (await maren.patch(`/processes/${process}`, { reasons }, expected)).body;
    await set([reason('a', 'Price'), reason('b', 'Design')]);
    const { body: deal } = await maren.post('/deals', { process, name: 'Deal', values: {} }, 201);
    const { body: won } = await maren.post(`/deals/${deal.id}/moves`, {
      target: { to: 'outcome', outcome: 'won' },
      revision: deal.revision,
      mode: 'force',
      text: 'signed',
      reason: 'a',
    });
    expect(won.deal.status.reason).toBe('a');
    const after = await set([reason('b', 'The best design')]);
    expect(after.reasons.filter(({ withdrawn }: { withdrawn: string }) => withdrawn === 'no')).toMatchObject([
      { id: 'b', name: 'The best design' },
    ]);
    expect(after.reasons.find(({ id }: { id: string }) => id === 'a')).toMatchObject({ withdrawn: 'yes' });
    const { body: other } = await maren.post('/deals', { process, name: 'Other', values: {} }, 201);
    const { body: refused } = await maren.post(
      `/deals/${other.id}/moves`,
      {
        target: { to: 'outcome', outcome: 'won' },
        revision: other.revision,
        mode: 'force',
        text: 'signed',
        reason: 'a',
      },
      422,
    );
    expect(pointers(refused)).toEqual(['/reason']);
  });
});

describe('a process that is closed to new deals', () => {
  it('takes none, keeps and finishes what it has, and opens again', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Closing' });
    const { body: deal } = await maren.post(
      '/deals',
      { process, name: 'Earlier', values: { area: 300, crop: 'herbs' } },
      201,
    );
    await maren.patch(`/processes/${process}`, { closedToNew: true });
    const { body } = await maren.post('/deals', { process, name: 'Later', values: {} }, 422);
    expect(body.errors).toEqual([{ pointer: '/process', detail: 'Choose a process that takes new deals.' }]);
    const { body: ticked } = await maren.post(`/deals/${deal.id}/ticks`, { item: 'called', state: 'ticked' });
    const target = { to: 'stage', stage: 'survey' };
    await maren.post(`/deals/${deal.id}/moves`, { target, revision: ticked.revision });
    await maren.patch(`/processes/${process}`, { closedToNew: false });
    await maren.post('/deals', { process, name: 'Later', values: {} }, 201);
  });
});
