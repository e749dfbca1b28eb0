import { request } from 'node:http';
import { guided } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { keepHouse } from '../housekeeping/housekeeping.ts';
import { newId } from '../ids.ts';
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
import { readRecords } from './csv.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const upload = (csv: string | Uint8Array, expected = 201, fileName = 'deals.csv', process = test.process) =>
  maren.post(`/imports?fileName=${fileName}&process=${process}`, csv, expected);

async function finish(id: string) {
  for (let tries = 0; tries < 200; tries++) {
    const { body } = await maren.get(`/imports/${id}`);
    if (body.state !== 'running' && body.state !== 'taking_back') return body;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('The import did not end');
}

async function importAll(csv: string, more: object = {}, process = test.process) {
  const { body } = await upload(csv, 201, 'deals.csv', process);
  await maren.post(`/imports/${body.import.id}/run`, { ...body.preview.settings, ...more }, 202);
  return finish(body.import.id);
}

const kindsOf = ({ body }: { body: { items: { kind: string }[] } }) => body.items.map(({ kind }) => kind);
const dealBy = async (externalId: string) => {
  const { rows } = await asOwner(test.database, `select id from deals where external_id = $1 and status <> 'voided'`, [
    externalId,
  ]);
  return rows[0] ? (await maren.get(`/deals/${rows[0].id}`)).body : null;
};

/* RFC 4180, section 2: line breaks inside quotes, doubled quotes, a last record without a line break, CRLF. */
describe('reading CSV', () => {
  const records = async (text: string, delimiter: ',' | ';' | '\t' = ',') => {
    const all = [];
    for await (const record of readRecords([Buffer.from(text)], delimiter)) all.push(record);
    return all;
  };

  it('follows RFC 4180', async () => {
    expect(await records('aaa,bbb,ccc\r\nzzz,yyy,xxx')).toEqual([
      { line: 1, cells: ['aaa', 'bbb', 'ccc'] },
      { line: 2, cells: ['zzz', 'yyy', 'xxx'] },
    ]);
    expect(await records('"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx\r\n')).toEqual([
      { line: 1, cells: ['aaa', 'b\r\nbb', 'ccc'] },
      { line: 3, cells: ['zzz', 'yyy', 'xxx'] },
    ]);
    expect((await records('"aaa","b""bb","ccc"'))[0]?.cells).toEqual(['aaa', 'b"bb', 'ccc']);
    expect((await records(' a , b '))[0]?.cells).toEqual([' a ', ' b ']);
  });

  it('drops a byte order mark, takes semicolons and tabs, and characters cut between two pieces', async () => {
    expect((await records('\ufeffname;value', ';'))[0]?.cells).toEqual(['name', 'value']);
    expect((await records('a\tb', '\t'))[0]?.cells).toEqual(['a', 'b']);
    const bytes = Buffer.from('é,ü');
    const all = [];
    for await (const record of readRecords([bytes.subarray(0, 1), bytes.subarray(1, 4), bytes.subarray(4)], ','))
      all.push(record.cells);
    expect(all).toEqual([['é', 'ü']]);
  });
});

describe('an upload', () => {
  it.each([
    [
      'a picture',
      Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13]),
      415,
      /not a text file/,
    ],
    ['nothing', ' '.repeat(0), 422, /empty/],
    ['a quote left open', 'Name,Value\r\n"North block,1\r\nSouth block,2\r\n', 422, /quote.*never closed/],
    ['a quote inside an unquoted cell', 'Name,Value\r\nNo"rth,1\r\n', 422, /Line 2/],
    ['another encoding', Uint8Array.from([0x4e, 0x61, 0x6d, 0x65, 0x0a, 0xe9, 0x0a]), 422, /UTF-8/],
    ['a head without rows', 'Name,Value\r\n', 422, /no rows/],
  ])('of %s is refused with the reason', async (_what, bytes, status, reason) => {
    const { body } = await upload(bytes, status);
    expect(body).toMatchObject({ detail: expect.stringMatching(reason) });
    expect((await maren.get('/imports')).body.items).toEqual([]);
  });

  it('of 200 MB is refused by the length that is told, before anything is sent', async () => {
    const answer = await new Promise<number | undefined>((resolve, reject) => {
      const path = `/api/v1/imports?fileName=big.csv&process=${test.process}`;
      const sending = request(
        test.server.url + path,
        { method: 'POST', headers: { ...maren.headers, 'Content-Type': 'text/csv', 'Content-Length': 200_000_000 } },
        ({ statusCode }) => resolve(statusCode),
      );
      sending.on('error', reject);
      sending.flushHeaders();
    });
    expect(answer).toBe(413);
  });

  it('that goes on past 64 MB without telling its length is cut off, and leaves nothing', async () => {
    const row = new TextEncoder().encode(`name,${'x'.repeat(500_000)}\n`);
    const file = new ReadableStream<Uint8Array>({ pull: (controller) => controller.enqueue(row) });
    const status = await maren.send('POST', `/imports?fileName=big.csv&process=${test.process}`, file, 0).then(
      ({ status }) => status,
      () => 'cut off',
    );
    expect([413, 'cut off']).toContain(status);
    expect((await maren.get('/imports')).body.items).toEqual([]);
  });
});

const HEAD = 'Ref,Deal,Company,Amount,Stage,Created,In stage since,Last activity,Owner,Crop\r\n';

describe('an import', () => {
  it('guesses columns, shows each problem at its cell, imports the good rows and gives the bad ones back', async () => {
    const csv = `${HEAD}A1,"North block, ""big""",Fennick Salads,"£1,200.50",Survey,2026-10-01,2026-10-20,2026-11-20,priya@test.example,Herbs\r\nA2,South,Fennick Salads,much,Nowhere,2026-02-30,,,Nobody,Mango\r\nA3,"East\r\nblock",New Customer,5,,,,,Bea Ferrant,\r\n`;
    const { body } = await upload(csv);
    expect(
      body.preview.settings.columns.map(
        (column: { column: string | null; field: string | null }) => column.column ?? column.field,
      ),
    ).toEqual([
      'external_id',
      'name',
      'customer',
      'value',
      'stage',
      'created',
      'entered_stage',
      'last_activity',
      'owner',
      'crop',
    ]);
    expect(body.preview.rows[1].cells.map(({ problem }: { problem: string | null }) => problem !== null)).toEqual([
      false,
      false,
      false,
      true,
      true,
      true,
      false,
      false,
      true,
      true,
    ]);
    await maren.post(`/imports/${body.import.id}/run`, body.preview.settings, 202);
    expect(await finish(body.import.id)).toMatchObject({
      state: 'done',
      created: 2,
      bad: 1,
      rowsRead: 3,
      rowsTotal: 3,
    });
    expect(await dealBy('A1')).toMatchObject({
      name: 'North block, "big"',
      stage: 'survey',
      age: 35,
      customer: { name: 'Fennick Salads' },
      values: { value: { minor: 120_050, currency: 'GBP' }, owner: PEOPLE.priya?.id, crop: 'herbs' },
      visits: [{ enteredDay: '2026-10-20' }],
    });
    expect(await dealBy('A3')).toMatchObject({ stage: 'brief', name: 'East\r\nblock', age: 0 });
    const { body: bad } = await maren.get(`/imports/${body.import.id}/bad-rows.csv`);
    expect(bad.split('\r\n')[0]).toContain('Why it was not imported');
    expect(bad).toMatch(/A2,South.*not an amount.*no stage.*not a date that exists/);
  });

  it('gives a deal its owner’s team, so that the owner sees it', async () => {
    expect((await dealBy('A1')).values.team).toBe(TEAMS.north);
    const { id } = await dealBy('A3');
    await (await test.as('bea')).get(`/deals/${id}`);
  });

  it('gives a step of whoever brought the deal to who ran it (S52)', async () => {
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Guided',
      stages: [stage('brief', 'Brief', { steps: [guided('look', { who: { by: 'bringer' } })] })],
    });
    await importAll(`${HEAD}S-1,Guided one,Firm,1,Brief,,,,Priya Nandan,\r\n`, {}, process);
    expect((await dealBy('S-1')).stepsAtHand).toMatchObject([{ person: { name: 'Maren Holt' } }]);
    const { body } = await maren.get(`/processes/${process}/step-runs?state=open&person=${PEOPLE.maren?.id}`);
    expect(body.items).toMatchObject([{ step: 'look' }]);
  });

  it('of the same file doubles nothing; known deals are skipped, or their filled cells written and journalled', async () => {
    const csv = `${HEAD}A1,North,,900,,,,,,\r\nB1,New,Fennick Salads,7,,,,,,\r\nB1,Twice,Fennick Salads,7,,,,,,\r\n`;
    expect(await importAll(csv)).toMatchObject({ created: 1, skipped: 1, bad: 1 });
    expect((await dealBy('A1')).values.value.minor).toBe(120_050);
    expect(await importAll(csv, { known: 'update' })).toMatchObject({ created: 0, updated: 1, skipped: 1, bad: 1 });
    const deal = await dealBy('A1');
    expect(deal.values).toMatchObject({ value: { minor: 90_000 }, crop: 'herbs' });
    expect(deal.name).toBe('North');
    expect(kindsOf(await maren.get(`/deals/${deal.id}/journal`)).slice(0, 2)).toEqual(['renamed', 'edited']);
  });

  it('is judged like any deal: what is unmet becomes findings, and nothing is refused for a gate', async () => {
    await importAll(`${HEAD}C1,Empty,Fennick Salads,,Proposal,2026-11-01,2026-11-10,,,\r\n`);
    expect(await dealBy('C1')).toMatchObject({
      stage: 'proposal',
      standing: 'held',
      findings: [{ requirement: 'r3', actual: 'not filled' }],
    });
  });

  it('judges a deal by its customer’s facts too, new and known ones alike', async () => {
    const credit = {
      kind: 'equals',
      left: { of: 'field', field: 'credit' },
      right: { of: 'value', value: true },
    } as const;
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Credit',
      stages: [
        stage('only', 'Only', {
          enter: [{ id: 'c', level: 'hold', binds: 'must_stay', kind: 'criterion', criterion: credit }],
        }),
      ],
    });
    for (const [name, value] of [
      ['Good Growers', true],
      ['Bad Growers', false],
    ])
      await maren.post('/customers', { name, values: { credit: value } }, 201);
    const csv = (customer: string) => `Id,Deal,Customer\r\nP1,One,${customer}\r\n`;
    await importAll(csv('good growers'), {}, process);
    expect((await dealBy('P1')).standing).toBe('clear');
    await importAll(csv('Bad Growers'), { known: 'update' }, process);
    expect((await dealBy('P1')).standing).toBe('held');
  });

  it('has bad rows, and goes on, where a cell cannot be stored, is far too long, or no row is whole', async () => {
    const filler = Array.from(
      { length: 2_000 },
      (_none, place) => `F${place},${'Filler '.repeat(25)},Fennick Salads,,,,,,,`,
    ).join('\r\n');
    const csv = `${HEAD}${filler}\r\nN1,a\u0000b,Fennick Salads,,,,,,,\r\nN2,c,Fen\u0000nick,,,,,,,\r\nN3,d,${'x'.repeat(400)},,,,,,,\r\nN4,${'y'.repeat(250)},Fennick Salads,,,,,,,\r\n`;
    const done = await importAll(csv);
    expect(done).toMatchObject({ state: 'done', created: 2_000, bad: 4 });
    const { body: bad } = await maren.get(`/imports/${done.id}/bad-rows.csv`);
    for (const id of ['N1', 'N2', 'N3', 'N4']) expect(bad).toContain(id);
    expect((await maren.get('/customers?find=xxx')).body.items).toEqual([]);
  });

  it('is taken back while its deals are untouched, and what it changed is changed back', async () => {
    const made = await importAll(`${HEAD}D1,One,Fennick Salads,1,,,,,,\r\nA1,x,,100,,,,,,\r\n`, { known: 'update' });
    await maren.post(`/imports/${made.id}/take-back`, undefined, 202);
    expect(await finish(made.id)).toMatchObject({ state: 'taken_back', takenBack: 2 });
    expect(await dealBy('D1')).toBeNull();
    expect((await dealBy('A1')).values.value.minor).toBe(90_000);
    expect(await importAll(`${HEAD}D1,One,Fennick Salads,1,,,,,,\r\n`)).toMatchObject({ created: 1 });
    const again = await importAll(`${HEAD}E1,Worked,Fennick Salads,1,,,,,,\r\n`);
    const { id } = await dealBy('E1');
    await maren.post(`/deals/${id}/activities`, { kind: 'note', text: 'Called' }, 201);
    expect((await maren.post(`/imports/${again.id}/take-back`, undefined, 409)).body.detail).toMatch(
      /1 of its deals was worked on/,
    );
  });

  it('leaves no file behind: of an imported one its head stays, one that was never imported goes after a day', async () => {
    const chunks = async (id: string) =>
      (
        await asOwner(test.database, 'select place from import_chunks where import_id = $1 order by place', [id])
      ).rows.map(({ place }) => place);
    const rows = Array.from({ length: 3_000 }, (_none, place) => `Z${place},${'Long name '.repeat(15)},,,,,,,,`);
    const { body: unused } = await upload(`${HEAD}${rows.join('\r\n')}`);
    expect((await chunks(unused.import.id)).length).toBeGreaterThan(1);
    const done = await importAll(`${HEAD}${rows.join('\r\n')}`);
    expect(await chunks(done.id)).toEqual([0]);
    expect(await chunks(unused.import.id)).not.toEqual([]);
    test.clock.pass(DAY + 1);
    maren = await test.as('maren');
    await keepHouse(test.server.context);
    expect(await chunks(unused.import.id)).toEqual([]);
    await maren.get(`/imports/${unused.import.id}`, 404);
    await maren.get(`/imports/${done.id}`, 200);
  });

  it('refuses settings that make no sense, at their place', async () => {
    const { body } = await upload('Name,Other\r\nx,y\r\n');
    const { settings } = body.preview;
    const twice = { to: 'deal', column: 'name', field: null };
    const { body: problem } = await maren.post(
      `/imports/${body.import.id}/run`,
      { ...settings, columns: [twice, twice], stage: 'nowhere' },
      422,
    );
    expect(problem.errors.map(({ pointer }: { pointer: string }) => pointer)).toEqual(['/stage', '/columns/1']);
    const { body: none } = await maren.post(`/imports/${body.import.id}/preview`, { ...settings, columns: [] });
    expect(none.problems[0].detail).toMatch(/name or to its customer/);
  });

  it('of many rows runs batch by batch while the server answers', async () => {
    const rows = Array.from(
      { length: 3_000 },
      (_none, place) =>
        `M${place},Deal ${place},Customer ${place % 50},${place},Survey,2026-09-01,2026-10-01,2026-11-01,priya@test.example,Herbs`,
    );
    const { body } = await upload(`${HEAD}${rows.join('\r\n')}`);
    await maren.post(`/imports/${body.import.id}/run`, body.preview.settings, 202);
    const health = await Promise.all(Array.from({ length: 5 }, () => maren.get('/health')));
    expect(health.every(({ status }) => status === 200)).toBe(true);
    expect(await finish(body.import.id)).toMatchObject({ created: 3_000, bad: 0 });
    expect((await maren.get(`/processes/${test.process}/lanes`)).body.stages[1]).toMatchObject({
      cards: { length: 30 },
    });
  });

  it('is run once, though it was asked for again before it was known that it ran', async () => {
    const csv = 'Ref,Name\nTwice1,Only once\n';
    const done = await importAll(csv);
    const again = newId(test.clock.now());
    await asOwner(
      test.database,
      `insert into long_work (id, kind, subject, request, by_id, state, started_at)
       select $1, 'import', i.id::text, i.settings, i.by_id, 'running', now() from imports i where i.id = $2`,
      [again, done.id],
    );
    const work = async () => (await maren.get(`/work/${again}`)).body;
    await expect.poll(async () => (await work()).state, { timeout: 20_000 }).toBe('failed');
    expect((await work()).problem.detail).toMatch(/not as it was/);
    expect((await maren.get(`/imports/${done.id}`)).body).toMatchObject({ state: 'done', created: 1 });
  });
});
