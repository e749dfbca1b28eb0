import { MONDAY_TO_FRIDAY } from '@ladder/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { verifyJournal } from './journal.ts';

let test: TestServer;
let priya: Client;
let deal: { id: string };
beforeAll(async () => {
  test = await startTestServer();
  priya = await test.as('priya');
  const rows = Array.from({ length: 3 }, (_none, place) => place);
  for (const place of rows) {
    deal = (await priya.post('/deals', { process: test.process, name: `Deal ${place}`, values: {} }, 201)).body;
    await priya.post(`/deals/${deal.id}/activities`, { kind: 'note', text: 'Their gutter is cracked' }, 201);
    await priya.patch(`/deals/${deal.id}`, { changes: [{ field: 'area', saw: null, value: 300 }] });
  }
});
afterAll(() => test.stop());

const verify = () => verifyJournal(test.server.context.dataSource);
const tamper = (statement: string) => asOwner(test.database, statement, [deal.id]);

describe('the journal', () => {
  it('holds, tells its entries in words, newest first, and chains each to the one before', async () => {
    expect(await verify()).toEqual({ entries: 9, broken: null });
    const { body } = await priya.get(`/deals/${deal.id}/journal`);
    expect(body.items.map(({ kind }: { kind: string }) => kind)).toEqual(['edited', 'activity', 'created']);
    expect(body.items[0].says.map(({ text }: { text: string }) => text).join('')).toBe(
      'Glazed area not filled → 300\u00a0m²',
    );
    expect(body.items[1].text).toBe('Their gutter is cracked');
    const { rows } = await asOwner(
      test.database,
      `select seq, encode(previous_hash, 'hex') as before, encode(hash, 'hex') as hash from journal where deal_id = $1 order by seq`,
      [deal.id],
    );
    expect(rows[0].before).toBe('');
    expect(rows[2].before).toBe(rows[1].hash);
  });

  it('hashes the bytes that are written down in the documentation', async () => {
    const { rows } = await asOwner(
      test.database,
      `select encode(hash, 'hex') as hash, jsonb_build_array(encode(previous_hash, 'hex'), deal_id, seq, kind, stage_id, (extract(epoch from happened_at) * 1000000)::bigint,
         (extract(epoch from recorded_at) * 1000000)::bigint, by_id, body, encode(text_digest, 'hex'))::text as form from journal where deal_id = $1 and seq = 2`,
      [deal.id],
    );
    const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(rows[0].form));
    expect(Buffer.from(digest).toString('hex')).toBe(rows[0].hash);
  });

  it('lets a person’s text be erased with the chain intact', async () => {
    await tamper(`update journal_texts set text = null where deal_id = $1`);
    expect((await verify()).broken).toBeNull();
  });

  it('names the first entry that was changed, and one that was cut off', async () => {
    await tamper(
      `update journal set body = jsonb_set(body, '{changes,0,after}', '900') where deal_id = $1 and seq = 3`,
    );
    expect((await verify()).broken).toEqual({ deal: deal.id, seq: 3, what: 'changed' });
    await tamper(`delete from journal where deal_id = $1 and seq = 3`);
    expect((await verify()).broken).toEqual({ deal: deal.id, seq: 3, what: 'cut off' });
  });
});

describe('the role the server runs under', () => {
  const attempt = async (statement: string): Promise<string> => {
    const client = new pg.Client({ connectionString: test.database.serverUrl });
    await client.connect();
    const answer = await client.query(statement).then(
      () => 'done',
      (error: { code: string }) => error.code,
    );
    await client.end();
    return answer;
  };
  const DENIED = '42501';

  it('may add to the journal and read it, and nothing else', async () => {
    expect(await attempt('select count(*) from journal')).toBe('done');
    for (const statement of [
      `update journal set kind = 'x'`,
      'delete from journal',
      'truncate journal',
      `update journal_texts set text = 'x'`,
      `update deal_heads set journal_count = 0`,
      `delete from deal_heads`,
      `update process_log set what = 'x'`,
    ]) {
      expect(await attempt(statement)).toBe(DENIED);
    }
  });

  it('owns nothing and makes nothing', async () => {
    for (const statement of [
      'create table x (id int)',
      'drop table deals',
      'alter table deals add column x int',
      'create schema x',
      `insert into migrations (timestamp, name) values (1, 'x')`,
    ]) {
      expect([DENIED, '42P01']).toContain(await attempt(statement));
    }
    const { rows } = await asOwner(
      test.database,
      `select count(*)::int as owned from pg_class where pg_get_userbyid(relowner) = 'ladder_server'`,
    );
    expect(rows[0].owned).toBe(0);
  });
});

it('calendars in the database and in core begin alike', async () => {
  const { rows } = await asOwner(test.database, `select working_weekdays from calendars`);
  expect(rows[0].working_weekdays).toEqual(MONDAY_TO_FRIDAY.workingWeekdays);
});
