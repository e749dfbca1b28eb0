import { USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DOCUMENT, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
let priya: Client;
let process: string;
beforeAll(async () => {
  test = await startTestServer();
  [maren, priya] = [await test.as('maren'), await test.as('priya')];
  const document = { ...DOCUMENT, name: 'Closings', outcomes: USUAL_OUTCOMES.deal, stages: [stage('a', 'Only')] };
  process = await publishFirst(maren, document);
});
afterAll(() => test.stop());

const gbp = (minor: number) => ({ minor, currency: 'GBP' });
const begin = async (more: object = {}, expected = 201, client = priya) =>
  (await client.post('/deals', { process, name: 'Palm house', values: {}, ...more }, expected)).body;
const estimated = () => begin({ values: { value: gbp(51_000_000), close_date: '2026-12-10' } });
const close = async (deal: { id: string; revision: number }, outcome: string, more: object = {}, expected = 200) => {
  const body = { target: { to: 'outcome', outcome }, revision: deal.revision, ...more };
  const answer = (await priya.post(`/deals/${deal.id}/moves`, body, expected)).body;
  return expected === 200 ? answer.deal : answer;
};
const journalOf = async (id: string) => (await priya.get(`/deals/${id}/journal`)).body.items;

describe('a deal that is won', () => {
  it('is told with what it came to and what had been expected, also when it is read again', async () => {
    const final = { value: gbp(48_000_000), day: '2026-11-20' };
    const won = await close(await estimated(), 'won', { final });
    const read = (await priya.get(`/deals/${won.id}`)).body;
    for (const deal of [won, read]) {
      expect(deal.values).toMatchObject({ value: final.value, close_date: '2026-11-20' });
      expect(deal.status.estimate).toEqual({ value: gbp(51_000_000), day: '2026-12-10' });
    }
    const [told] = await journalOf(won.id);
    const says = told.says.map(({ text }: { text: string }) => text).join('');
    expect(says).toContain('for £480,000 (estimated £510,000) on 20 Nov 2026 (estimated 10 Dec 2026)');
  });

  it('refuses final facts that cannot be, each at its place, and is open still', async () => {
    const deal = await estimated();
    const pointers = async (outcome: string, final: object, expected = 422) =>
      (await close(deal, outcome, { final }, expected)).errors.map(({ pointer }: { pointer: string }) => pointer);
    expect(await pointers('won', { value: gbp(1), day: '2027-01-01' })).toEqual(['/final/day']);
    expect(await pointers('won', { value: { minor: 1, currency: 'EUR' }, day: '2026-11-20' })).toEqual([
      '/final/value',
    ]);
    expect(await pointers('won', { value: gbp(1), day: '2026-02-30' }, 400)).toEqual(['/final/day']);
    expect(await pointers('lost', { value: gbp(1), day: '2026-11-20' })).toEqual(['/final']);
    expect((await priya.get(`/deals/${deal.id}`)).body.status).toEqual({ state: 'open' });
  });
});

describe('a new deal that goes on from a closed one', () => {
  it('is named in its journal and names it, and the follow-up has been seen to', async () => {
    const lost = await close(await estimated(), 'lost', { followUp: '2027-02-01' });
    const next = await begin({ from: lost.id, name: 'Palm house 2', values: { value: gbp(30_000_000) } });
    expect(next.values.value).toEqual(gbp(30_000_000));
    expect((await journalOf(next.id)).map(({ body }: { body: object }) => body)).toContainEqual({
      kind: 'begun_from',
      from: { deal: lost.id, name: 'Palm house' },
    });
    expect((await journalOf(lost.id)).map(({ body }: { body: object }) => body)).toContainEqual({
      kind: 'went_on',
      next: { deal: next.id, name: 'Palm house 2' },
    });
    expect((await priya.get(`/deals/${lost.id}`)).body.status).toMatchObject({ state: 'lost', followUp: null });
  });

  it('does not go on from an open deal, one of another team, one that is not there; and nothing is begun', async () => {
    const open = await estimated();
    const lost = await close(await estimated(), 'lost');
    const count = async () => (await maren.get(`/deals?process=${process}&status=open`)).body.items.length;
    const before = await count();
    const bea = await test.as('bea');
    for (const [from, client] of [
      [open.id, priya],
      [lost.id, bea],
      ['00000000-0000-4000-8000-000000000000', priya],
    ] as const)
      expect((await begin({ from }, 422, client)).errors[0].pointer).toBe('/from');
    expect(await count()).toBe(before);
  });
});
