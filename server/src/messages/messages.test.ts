import { newStep, USUAL_OUTCOMES } from '@ladder/core';
import PostalMime from 'postal-mime';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { DOCUMENT, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';
import { doMessages } from './doMessages.ts';
import { toMime } from './mime.ts';

let test: TestServer;
let maren: Client;
let priya: Client;
let template: string;
let process: string;
beforeAll(async () => {
  test = await startTestServer();
  [maren, priya] = [await test.as('maren'), await test.as('priya')];
  template = (await addTemplate({})).id;
  const step = newStep('offer', 'Send the offer', { id: 'sent', name: 'Sent' });
  const sends = (how: 'to_confirm' | 'at_once') => ({ do: 'message', template, how }) as const;
  const results = step.results.map((result) => ({ ...result, actions: [sends('to_confirm')] }));
  process = await publishFirst(maren, {
    ...DOCUMENT,
    name: 'Messages',
    outcomes: USUAL_OUTCOMES.deal,
    stages: [
      stage('a', 'First', { steps: [{ ...step, results }] }),
      stage('b', 'Second', { arrival: [sends('at_once')] }),
    ],
  });
});
afterAll(() => test.stop());

const TEMPLATE = {
  name: 'Offer',
  process: null,
  to: { who: 'owner', field: null },
  subject: 'Your offer: {deal.name}',
  body: 'Dear {owner.name},\n\n{deal.name} comes to {deal.value}.',
};
const addTemplate = async (more: object, expected = 201) =>
  (await maren.post('/message-templates', { ...TEMPLATE, ...more }, expected)).body;
const begin = async (values: object = { value: { minor: 51_000_000, currency: 'GBP' } }) =>
  (await priya.post('/deals', { process, name: 'Palm house', values }, 201)).body;
const messagesOf = async ({ id }: { id: string }) => (await priya.get(`/deals/${id}/messages`)).body.items;
const work = () => doMessages(test.server.context);
const WRITTEN = { name: 'Ada', address: 'ada@example.org', subject: 'Hello', body: 'How are you?' };

describe('a template', () => {
  it('names what is wrong with it at its place', async () => {
    const pointers = async (more: object, status = 422) =>
      (await addTemplate({ name: 'Bad', ...more }, status)).errors.map(({ pointer }: { pointer: string }) => pointer);
    expect(await pointers({ body: '{deal.nothing}' })).toEqual(['/body']);
    expect(await pointers({ subject: '{deal.name' })).toEqual(['/subject']);
    expect(await pointers({ subject: 'One\r\nBcc: x@y.example' })).toEqual(['/subject']);
    expect(await pointers({ to: { who: 'contact', field: 'area' } })).toEqual(['/to/field']);
    expect(await pointers({ name: 'offer' }, 409)).toEqual(['/name']);
    expect(await pointers({ body: 'x'.repeat(20_001) }, 400)).toEqual(['/body']);
    await priya.post('/message-templates', TEMPLATE, 403);
  });
});

describe('a message', () => {
  it('is prepared by a step’s result, waits for someone, and is sent as they have it', async () => {
    const deal = await begin();
    await priya.post(`/deals/${deal.id}/steps/1/result`, { result: 'sent', version: deal.version.id, captures: [] });
    await work();
    const [prepared] = await messagesOf(deal);
    expect(prepared).toMatchObject({
      state: 'to_confirm',
      template: 'Offer',
      subject: 'Your offer: Palm house',
      body: 'Dear Priya Nandan,\n\nPalm house comes to £510,000.',
      problem: null,
    });
    const address = `/deals/${deal.id}/messages/${prepared.id}`;
    await priya.send('PUT', `${address}/confirmation`, WRITTEN, 200);
    await priya.send('PUT', `${address}/confirmation`, WRITTEN, 409);
    await work();
    expect((await messagesOf(deal))[0]).toMatchObject({
      state: 'sent',
      subject: 'Hello',
      by: 'Priya Nandan',
      tries: 1,
    });
    const [told] = (await priya.get(`/deals/${deal.id}/journal`)).body.items;
    expect(told).toMatchObject({ body: { kind: 'activity', activity: 'message' }, text: 'Hello', by: 'Priya Nandan' });
    await work();
    expect((await priya.get(`/deals/${deal.id}/journal`)).body.items[0].seq).toBe(told.seq);
  });

  it('is sent at once on arrival, but never with a hole: what is missing is told, and a person has it to confirm', async () => {
    const [whole, bare] = [await begin(), await begin({})];
    for (const deal of [whole, bare])
      await priya.post(`/deals/${deal.id}/moves`, { target: { to: 'stage', stage: 'b' }, revision: deal.revision });
    await work();
    expect((await messagesOf(whole))[0]).toMatchObject({ state: 'sent', subject: 'Your offer: Palm house' });
    expect((await messagesOf(bare))[0]).toMatchObject({ state: 'to_confirm', problem: 'Missing: value of the deal.' });
    const draft = (await priya.get(`/deals/${bare.id}/messages/draft?template=${template}`)).body;
    expect(draft).toMatchObject({
      missing: ['value of the deal'],
      body: expect.stringContaining('{deal.value}'),
      address: 'priya@test.example',
    });
  });

  it('is tried again after growing waits while it fails, and given up after the eighth try', async () => {
    const deal = await begin();
    await priya.post(`/deals/${deal.id}/messages`, WRITTEN, 201);
    await maren.send('PUT', '/messages/stand-in', { fails: true }, 200);
    await work();
    expect((await messagesOf(deal))[0]).toMatchObject({
      state: 'failed',
      tries: 1,
      problem: expect.stringContaining('told to fail'),
    });
    for (let minutes = 1; minutes <= 64; minutes *= 2) {
      test.clock.pass(minutes * 60_000 - 1);
      await work();
      const { tries } = (await messagesOf(deal))[0];
      test.clock.pass(1);
      await work();
      expect((await messagesOf(deal))[0].tries).toBe(tries + 1);
    }
    expect((await messagesOf(deal))[0]).toMatchObject({ state: 'given_up', tries: 8, nextTryAt: null });
    const next = (await priya.post(`/deals/${deal.id}/messages`, WRITTEN, 201)).body;
    await work();
    await maren.send('PUT', '/messages/stand-in', { fails: false }, 200);
    test.clock.pass(60_000);
    await work();
    expect((await messagesOf(deal)).find(({ id }: { id: string }) => id === next.id)).toMatchObject({
      state: 'sent',
      tries: 2,
    });
  });

  it('is handed over once by two that come to it together', async () => {
    const deal = await begin();
    for (let place = 0; place < 5; place++) await priya.post(`/deals/${deal.id}/messages`, WRITTEN, 201);
    await Promise.all([work(), work(), work()]);
    expect(
      (await messagesOf(deal)).map(({ state, tries }: { state: string; tries: number }) => `${state} ${tries}`),
    ).toEqual(Array(5).fill('sent 1'));
    expect(
      (await priya.get(`/deals/${deal.id}/journal`)).body.items.filter(
        ({ kind }: { kind: string }) => kind === 'activity',
      ),
    ).toHaveLength(5);
  });

  it('is not sent where it was dropped, and takes no address or header that ends its line', async () => {
    const deal = await begin();
    const { id } = (await priya.post(`/deals/${deal.id}/messages`, WRITTEN, 201)).body;
    await priya.post(`/deals/${deal.id}/messages/${id}/drop`, undefined);
    await work();
    expect((await messagesOf(deal))[0].state).toBe('dropped');
    const wrong = async (more: object) =>
      (await priya.post(`/deals/${deal.id}/messages`, { ...WRITTEN, ...more }, 422)).body.errors[0].pointer;
    expect(await wrong({ address: 'ada@example.org\r\nBcc: all@example.org' })).toBe('/address');
    expect(await wrong({ address: 'ada@example.org, bob@example.org' })).toBe('/address');
    expect(await wrong({ subject: 'Hello\nBcc: all@example.org' })).toBe('/subject');
    expect(await wrong({ name: 'Ada\r\nBcc: all@example.org' })).toBe('/name');
    expect(await wrong({ body: 'It comes to {deal.value}.' })).toBe('/body');
    await (await test.as('bea')).get(`/deals/${deal.id}/messages`, 404);
    await (await test.as('bea')).post(`/deals/${deal.id}/messages`, WRITTEN, 404);
    await (await test.as('lena')).post(`/deals/${deal.id}/messages`, WRITTEN, 403);
  });
});

describe('a message as a file', () => {
  /* Parsed by a package that has no part in writing it; headers by RFC 5322 (section 3.6), encoded words by RFC 2047. */
  it('is read again as it was written, whatever its letters, and has one Message-ID for all tries', async () => {
    const message = {
      id: '01900000-0000-7000-8000-000000000001',
      toName: 'Ünal, Ada "A."',
      toAddress: 'ada@example.org',
      subject: 'Größe & Wärme: 480 m² für das Glashaus, und noch ein gutes Stück länger als eine Zeile sein darf',
      body: `Grüße\n.\nFrom here on\n${'x'.repeat(2_000)}`,
      madeAt: new Date('2026-11-24T10:00:00Z'),
    };
    const [raw, again] = [
      await toMime(message, 'Ladder <ladder@test.example>'),
      await toMime(message, 'Ladder <ladder@test.example>'),
    ];
    const text = raw.toString('latin1');
    expect(text.split('\r\n').every((line) => line.length <= 998)).toBe(true);
    expect(/[^\r]\n/.test(text)).toBe(false);
    // RFC 5322, 2.3: the bytes are US-ASCII.
    expect([...raw].every((byte) => byte < 128)).toBe(true);
    const read = await PostalMime.parse(raw);
    expect(read).toMatchObject({
      subject: message.subject,
      from: { address: 'ladder@test.example', name: 'Ladder' },
      to: [{ address: message.toAddress, name: message.toName }],
      messageId: `<${message.id}@test.example>`,
      date: '2026-11-24T10:00:00.000Z',
    });
    expect(read.text?.trimEnd()).toBe(message.body);
    expect((await PostalMime.parse(again)).messageId).toBe(read.messageId);
  });
});

describe('the digest', () => {
  it('has what is unread, once a day at most, in the morning, and only of the kinds that were chosen', async () => {
    const [tomas] = [await test.as('tomas')];
    const { id: tomasId } = (await maren.get('/people')).body.items.find(({ name }: { name: string }) =>
      name.startsWith('Tomas'),
    );
    const deal = await begin();
    const mention = () =>
      priya.post(`/deals/${deal.id}/activities`, { kind: 'note', text: `[@Tomas Verhey](person:${tomasId})` }, 201);
    const digests = async () =>
      (await maren.get('/messages?limit=200')).body.items.filter(
        ({ to }: { to: { address: string } }) => to.address === 'tomas@test.example',
      );
    await mention();
    await work();
    expect(await digests()).toHaveLength(1);
    expect((await digests())[0]).toMatchObject({ state: 'sent', body: '- Priya Nandan mentioned you: Palm house' });
    await mention();
    await work();
    expect(await digests()).toHaveLength(1);
    test.clock.pass(DAY);
    await work();
    expect(await digests()).toHaveLength(2);
    await tomas.send('PUT', '/bell/choices', { digest: ['assigned'] }, 200);
    test.clock.pass(DAY);
    await mention();
    await work();
    expect(await digests()).toHaveLength(2);
  });
});
