import type { StageId } from '@ladder/core';
import { actor, type Change, MONDAY_TO_FRIDAY, moveDeal, recordActivity, tickItem } from '@ladder/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inCommand } from '../context.ts';
import { createDataSource } from '../db/dataSource.ts';
import { makeCheckpoint } from '../journal/checkpoint.ts';
import { verifyJournal } from '../journal/verify.ts';
import { loadSetting } from '../setting/repository/settings.ts';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, publishFirst, startTestServer, type TestServer } from '../testing/testServer.ts';
import { loadDeals, lockDeals } from './repository/loadDeals.ts';
import { writeDeals } from './repository/writeDeals.ts';
import { type Command, momentOf } from './runCommand.ts';

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

describe('the journal', () => {
  it('holds, tells its entries in words, newest first, and chains each to the one before', async () => {
    expect(await verify()).toMatchObject({ entries: 9, broken: null });
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
         (extract(epoch from recorded_at) * 1000000)::bigint, coalesce(by_actor, by_id::text), body, encode(text_digest, 'hex'))::text as form from journal where deal_id = $1 and seq = 2`,
      [deal.id],
    );
    const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(rows[0].form));
    expect(Buffer.from(digest).toString('hex')).toBe(rows[0].hash);
  });

  it('lets a person’s text be erased with the chain intact: that it was is journalled, and by whom', async () => {
    const maren = await test.as('maren');
    await priya.send('DELETE', `/deals/${deal.id}/journal/2/text`, undefined, 403);
    await maren.send('DELETE', `/deals/${deal.id}/journal/2/text`, undefined, 200);
    await maren.send('DELETE', `/deals/${deal.id}/journal/2/text`, undefined, 409);
    await maren.send('DELETE', `/deals/${deal.id}/journal/1/text`, undefined, 404);
    const { body } = await priya.get(`/deals/${deal.id}/journal`);
    expect(body.items[0]).toMatchObject({ kind: 'text_erased', body: { seq: 2 }, by: 'Maren Holt' });
    expect(body.items.find(({ seq }: { seq: number }) => seq === 2).text).toBeNull();
    expect((await verify()).broken).toBeNull();
  });
});

describe('what no person does', () => {
  it('is kept, told and chained as what people do: the process ticks, moves, is held and writes', async () => {
    const maren = await test.as('maren');
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'By itself' });
    const { body: begun } = await maren.post('/deals', { process, name: 'Goes on', values: { area: 300 } }, 201);
    const { context } = test.server;
    const act = (decide: (command: Command) => Change): Promise<void> =>
      inCommand(context, async (tx) => {
        await lockDeals(tx, [begun.id]);
        const [before] = await loadDeals(tx, [begun.id]);
        if (!before) throw new Error('The deal is gone');
        const setting = await loadSetting(tx, before.version);
        const change = decide({ deal: before, setting, moment: momentOf(context, actor('process', process)) });
        await writeDeals(tx, [{ before, change }], setting.catalogue);
      });
    const move = ({ deal: now, setting, moment }: Command): Change => {
      const request = { mode: 'ask', text: null, reason: null, followUp: null } as const;
      const moved = moveDeal(now, setting, { ...request, target: { to: 'stage', stage: 'survey' as StageId } }, moment);
      if (!moved.ok) throw new Error(moved.error.code);
      return moved.value.change;
    };
    await act(move);
    await act(({ deal: now, setting, moment }) => {
      const ticked = tickItem(now, setting, 'called', 'ticked', moment);
      if (!ticked.ok) throw new Error(ticked.error.code);
      return ticked.value;
    });
    await act(({ deal: now, setting, moment }) => recordActivity(now, setting, 'note', 'Due today.', moment));
    await act(move);
    const { body } = await maren.get(`/deals/${begun.id}/journal`);
    expect(body.items.map(({ kind, by }: { kind: string; by: string }) => [kind, by])).toEqual([
      ['moved', 'the process'],
      ['activity', 'the process'],
      ['ticked', 'the process'],
      ['refused', 'the process'],
      ['created', 'Maren Holt'],
    ]);
    const { body: detail } = await maren.get(`/deals/${begun.id}`);
    expect(detail.ticked).toMatchObject([{ item: 'called', by: 'the process' }]);
    expect(detail.path.at(-1)).toMatchObject({ to: 'survey', by: 'the process' });
    await maren.post(`/deals/${begun.id}/moves/take-back`, { revision: detail.revision, text: 'Too soon' }, 200);
    expect((await verify()).broken).toBeNull();
  });
});

/* Whoever owns the tables may write anything; what they did shows all the same. Each harm is undone before the next. */
describe('a journal that was tampered with', () => {
  const REHASH = `update journal j set hash = journal_hash(previous_hash, deal_id, seq, kind, stage_id, happened_at, recorded_at, coalesce(by_actor, by_id::text), body, text_digest)`;
  const HEAD = `update deal_heads h set journal_count = l.seq, journal_hash = l.hash
    from (select seq, hash from journal where deal_id = $1 order by seq desc limit 1) l where h.deal_id = $1`;
  const harmed = async (...statements: readonly string[]) => {
    const source = await createDataSource(test.database.ownerUrl, 1).initialize();
    const runner = source.createQueryRunner();
    await runner.startTransaction();
    for (const statement of statements) await runner.query(statement, statement.includes('$1') ? [deal.id] : []);
    const { broken } = await verifyJournal(runner.manager, kept);
    await runner.rollbackTransaction();
    await runner.release();
    await source.destroy();
    return broken && ('seq' in broken ? [broken.what, broken.seq] : [broken.what]);
  };
  let kept: { number: number; digest: string };
  beforeAll(async () => {
    const made = await makeCheckpoint(test.server.context);
    if (!made) throw new Error('No checkpoint');
    kept = made;
    const { body } = await priya.post('/deals', { process: test.process, name: 'Tampered', values: {} }, 201);
    deal = body;
    for (let place = 0; place < 3; place++)
      await priya.post(`/deals/${deal.id}/activities`, { kind: 'note', text: `Note ${place}` }, 201);
    kept = (await makeCheckpoint(test.server.context)) ?? kept;
  });

  it('is told where nothing is wrong', async () => {
    expect(await harmed('select 1')).toBeNull();
    expect(await makeCheckpoint(test.server.context)).toBeNull();
  });

  it.each<[string, readonly string[], unknown]>([
    [
      'an entry that says another thing',
      [`update journal set body = '{"kind": "activity", "activity": "call"}' where deal_id = $1 and seq = 3`],
      ['changed', 3],
    ],
    ['an entry that is gone from the middle', [`delete from journal where deal_id = $1 and seq = 2`], ['missing', 2]],
    [
      'two entries that changed places',
      [
        `update journal set seq = -1 where deal_id = $1 and seq = 2`,
        `update journal set seq = 2 where deal_id = $1 and seq = 3`,
        `update journal set seq = 3 where deal_id = $1 and seq = -1`,
      ],
      ['changed', 2],
    ],
    ['the newest cut off', [`delete from journal where deal_id = $1 and seq = 4`], ['cut off', 4]],
    [
      'the newest cut off, its head put back',
      [`delete from journal where deal_id = $1 and seq = 4`, HEAD],
      ['cut off', 4],
    ],
    [
      'a deal that was emptied',
      [
        `delete from journal where deal_id = $1`,
        `update deal_heads set journal_count = 0, journal_hash = '' where deal_id = $1`,
      ],
      ['cut off', 1],
    ],
    [
      'the last one written anew, its head too',
      [
        `alter table journal disable trigger all`,
        `update journal set kind = 'renamed' where deal_id = $1 and seq = 4`,
        `${REHASH} where deal_id = $1 and seq = 4`,
        HEAD,
      ],
      ['changed', 4],
    ],
    [
      'another hash function',
      [
        `create or replace function journal_hash(previous bytea, deal uuid, seq integer, kind text, stage text, happened timestamptz, recorded timestamptz, actor text, body jsonb, digest bytea) returns bytea language sql immutable as $f$ select sha256('x') $f$`,
        `update journal set body = '{}' where deal_id = $1 and seq = 3`,
        `${REHASH} where deal_id = $1 and seq >= 3`,
      ],
      ['changed', 3],
    ],
    [
      'a text that nobody erased',
      [`update journal_texts set text = null where id = (select text_id from journal where deal_id = $1 and seq = 2)`],
      ['text gone', 2],
    ],
    [
      'a text that was altered',
      [`update journal_texts set text = 'x' where id = (select text_id from journal where deal_id = $1 and seq = 2)`],
      ['text changed', 2],
    ],
    [
      'a head that says another hash',
      [`update deal_heads set journal_hash = 'x' where deal_id = $1`],
      ['head changed'],
    ],
    [
      'an entry more, well made',
      [
        `insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, body) values ($1, 'created', 'brief', now(), now(), '{}')`,
        `update deal_heads set journal_count = 4, journal_hash = (select hash from journal where deal_id = $1 and seq = 4) where deal_id = $1`,
      ],
      ['added', 5],
    ],
    [
      'a checkpoint that was made to agree',
      [
        `delete from journal where deal_id = $1 and seq = 4`,
        HEAD,
        `update journal_checkpoint_heads c set journal_count = h.journal_count, journal_hash = h.journal_hash from deal_heads h where h.deal_id = c.deal_id and c.deal_id = $1`,
      ],
      ['checkpoint changed'],
    ],
    [
      'checkpoints that were taken away',
      [`delete from journal_checkpoint_heads`, `delete from journal_checkpoints`],
      ['checkpoint missing'],
    ],
  ])('%s is found', async (_what, statements, expected) => {
    expect(await harmed(...statements)).toEqual(expected);
  });

  it('a deal that was deleted whole is found by the checkpoint that names it', async () => {
    const tables = [
      'findings',
      'deal_states',
      'moves',
      'visits',
      'activities',
      'journal',
      'journal_texts',
      'deal_heads',
    ];
    const statements = tables.map((table) => `delete from ${table} where deal_id = $1`);
    expect(await harmed(...statements, 'delete from deals where id = $1')).toEqual(['cut off', 1]);
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

  const entries = (...deals: readonly string[]): string => {
    const at = { happened: '2026-11-26', recorded: '2026-11-26' };
    const all = deals.map((id, place) => ({ place, deal: id, kind: 'noted', stage: 'a', ...at, body: {} }));
    return `select append_journal('${JSON.stringify(all)}')`;
  };

  it('may append to the journal and read it, and nothing else', async () => {
    expect(await attempt('select count(*) from journal')).toBe('done');
    const nobodys = '01900000-0000-7000-8000-00000000dead';
    expect(await attempt(`begin; ${entries(deal.id)}; ${entries(deal.id, deal.id)}; rollback`)).toBe('done');
    for (const lost of [entries(nobodys), entries(deal.id, nobodys)]) expect(await attempt(lost)).toMatch(/^P0/);
    for (const statement of [
      `update journal set kind = 'x'`,
      `insert into journal (deal_id, seq, kind, stage_id, happened_at, recorded_at, body, previous_hash, hash)
       select deal_id, seq + 9, kind, stage_id, happened_at, recorded_at, body, previous_hash, hash from journal`,
      'delete from journal',
      'truncate journal',
      `update journal_texts set text = 'x'`,
      `update deal_heads set journal_count = 0`,
      `delete from deal_heads`,
      `update process_log set what = 'x'`,
      `update journal_checkpoints set entries = 0`,
      'delete from journal_checkpoint_heads',
      `update moves set kind = 'x'`,
      'delete from moves',
      `update visits set stage_id = 'x'`,
      'delete from visits',
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
