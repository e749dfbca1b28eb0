import ICAL from 'ical.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
import {
  DOCUMENT,
  PEOPLE,
  publishFirst,
  stage,
  startTestServer,
  TEAMS,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
let priya: Client;
let process: string;
beforeAll(async () => {
  test = await startTestServer();
  priya = await test.as('priya');
  process = await publishFirst(await test.as('maren'), {
    ...DOCUMENT,
    name: 'Feeds',
    stages: [stage('a', 'Brief; of, “site”')],
  });
});
afterAll(() => test.stop());

const LONG = 'Ring the grower, the surveyor; and everyone else who decides: “ærøskøbing 🌱” \\ slash, '
  .repeat(3)
  .trim();
const begin = async (name: string, values: object = {}) =>
  (await priya.post('/deals', { process, name, values }, 201)).body;
const task = (deal: { id: string }, more: object = {}) =>
  priya.post(
    `/deals/${deal.id}/tasks`,
    { title: LONG, assignee: PEOPLE.priya?.id, dueDay: '2027-03-27', ...more },
    201,
  );
const make = async (who = priya) => String((await who.post('/session/feed', undefined, 201)).body.path);
const raw = async (path: string) => fetch(`${test.server.url}${path}`);
const read = async (path: string) => (await raw(path)).text();
const eventsOf = (text: string) =>
  new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((event) => new ICAL.Event(event));

describe('a calendar feed', () => {
  it('is iCalendar as RFC 5545 wants it: parsed again, folded at 75 octets, its texts escaped', async () => {
    const deal = await begin('North; block, “east”', {
      close_date: '2027-01-15',
      next_action: 'Send it',
      next_action_day: '2026-12-01',
    });
    await task(deal, { dueTime: '14:00' });
    const answer = await raw(await make());
    expect(answer.headers.get('Content-Type')).toBe('text/calendar; charset=utf-8');
    const text = await answer.text();
    // RFC 5545, section 3.1: lines end with CRLF, and are at most 75 octets long.
    const lines = text.split('\r\n');
    expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
    expect(Math.max(...lines.map((line) => Buffer.byteLength(line)))).toBeLessThanOrEqual(75);
    const calendar = new ICAL.Component(ICAL.parse(text));
    // Section 3.6: these must be there; RFC 7986, sections 5.1 and 5.7: its name, and how often to ask.
    expect([calendar.getFirstPropertyValue('version'), calendar.getFirstPropertyValue('name')]).toEqual([
      '2.0',
      'Priya Nandan, Test',
    ]);
    expect(String(calendar.getFirstPropertyValue('refresh-interval'))).toBe('PT1H');
    const events = eventsOf(text);
    expect(events.map(({ summary }) => summary).sort()).toEqual(
      [`${LONG} · ${deal.name}`, `Send it · ${deal.name}`, `Closes · ${deal.name}`].sort(),
    );
    const [timed] = events.filter(({ summary }) => summary.startsWith('Ring'));
    // 27 March 2027 is the last day before London's clocks go on (tz database): 14:00 there is 14:00 UTC, a day later 13:00.
    expect(timed?.startDate.toJSDate().toISOString()).toBe('2027-03-27T14:00:00.000Z');
    const [closing] = events.filter(({ summary }) => summary.startsWith('Closes'));
    expect([closing?.startDate.isDate, closing?.startDate.toString()]).toEqual([true, '2027-01-15']);
    expect(closing?.description).toBe('Brief; of, “site”');
  });

  it('follows the clocks of the organisation’s zone', async () => {
    const deal = await begin('Summer');
    await task(deal, { title: 'In summer', dueDay: '2027-03-29', dueTime: '09:30' });
    const [event] = eventsOf(await read(await make())).filter(({ summary }) => summary.startsWith('In summer'));
    expect(event?.startDate.toJSDate().toISOString()).toBe('2027-03-29T08:30:00.000Z');
  });

  it('keeps an item’s UID for ever, and its SEQUENCE rises with each change (section 3.8.7.4)', async () => {
    const deal = await begin('Changing');
    await task(deal, { title: 'Changing' });
    const path = await make();
    const find = async () => eventsOf(await read(path)).find(({ summary }) => summary.startsWith('Changing'));
    const before = await find();
    await priya.send('PUT', `/deals/${deal.id}/tasks/1/due`, { day: '2027-04-01', text: 'Away' }, 200);
    const after = await find();
    expect(after?.uid).toBe(before?.uid);
    expect(after?.sequence).toBeGreaterThan(before?.sequence ?? Number.POSITIVE_INFINITY);
    expect(after?.startDate.toString()).toBe('2027-04-01');
    await priya.send('PUT', `/deals/${deal.id}/tasks/1/end`, { how: 'done' }, 200);
    expect(await find()).toBeUndefined();
  });

  it('shows what its person may see, and no more, from 30 days ago to a year ahead (S64)', async () => {
    const deal = await begin('Seen');
    await task(deal, { title: 'Next year', dueDay: '2027-11-24' });
    await task(deal, { title: 'Too far', dueDay: '2027-11-25' });
    await task(deal, { title: 'Of Tomas', assignee: PEOPLE.tomas?.id });
    const path = await make();
    const titles = async () => eventsOf(await read(path)).map(({ summary }) => summary.split(' · ')[0]);
    expect(await titles()).toEqual(expect.arrayContaining(['Next year']));
    expect(await titles()).not.toEqual(expect.arrayContaining(['Too far']));
    expect(await titles()).not.toEqual(expect.arrayContaining(['Of Tomas']));
    // The deal goes to another team and owner: whoever had a task of it sees it no more.
    const maren = await test.as('maren');
    const { values } = (await maren.get(`/deals/${deal.id}`)).body;
    const changes = [
      { field: 'owner', saw: values.owner, value: PEOPLE.bea?.id },
      { field: 'team', saw: values.team, value: TEAMS.south },
    ];
    await maren.patch(`/deals/${deal.id}`, { changes });
    expect(await titles()).not.toEqual(expect.arrayContaining(['Next year']));
  });

  it('has a secret address, told once and kept hashed; another revokes it, and whoever has left has none', async () => {
    const first = await make();
    expect(
      Buffer.from(new URL(first, 'http://x').searchParams.get('key') ?? '', 'base64url').length,
    ).toBeGreaterThanOrEqual(16);
    const second = await make();
    expect([(await raw(first)).status, (await raw(second)).status]).toEqual([404, 200]);
    const { rows } = await asOwner(test.database, "select encode(secret_hash, 'escape') as kept from calendar_feeds");
    expect(JSON.stringify(rows)).not.toContain(second.split('=')[1]);
    expect((await priya.get('/session/feed')).body.readAt).not.toBeNull();
    await priya.send('DELETE', '/session/feed', undefined, 204);
    expect((await raw(second)).status).toBe(404);
    for (const guess of ['', 'x', 'A'.repeat(32), "' or true --"])
      expect([400, 404]).toContain((await raw(`/api/v1/calendar.ics?key=${encodeURIComponent(guess)}`)).status);
    const bea = await make(await test.as('bea'));
    await (await test.as('maren')).patch(`/accounts/${PEOPLE.bea?.id}`, { active: false });
    expect((await raw(bea)).status).toBe(404);
    await (await test.as('lena')).post('/session/feed', undefined, 403);
  });
});

describe('a calendar', () => {
  it('tells what is due on which day, of a person or a team, for two months at most', async () => {
    const deal = await begin('Monthly', { close_date: '2027-06-15' });
    await task(deal, { title: 'In June', dueDay: '2027-06-03', dueTime: '09:00' });
    const ask = async (who: Client, query: string, status = 200) =>
      (await who.get(`/today/calendar?${query}`, status)).body;
    const june = 'from=2027-06-01&to=2027-06-30';
    const told = (await ask(priya, june)).items.map(({ item }: { item: { kind: string; dueDay: string } }) => [
      item.dueDay,
      item.kind,
    ]);
    expect(told).toEqual([
      ['2027-06-03', 'task'],
      ['2027-06-15', 'close_date'],
    ]);
    const tomas = await test.as('tomas');
    expect((await ask(tomas, june)).items).toEqual([]);
    expect((await ask(tomas, `${june}&team=${TEAMS.north}`)).items).toHaveLength(2);
    await ask(priya, `${june}&team=${TEAMS.north}`, 403);
    await ask(priya, 'from=2027-06-01&to=2027-08-30', 400);
    await ask(priya, 'from=2027-06-02&to=2027-06-01', 400);
    await ask(priya, 'from=2027-06-31&to=2027-07-01', 400);
    test.clock.pass(DAY);
  });
});
