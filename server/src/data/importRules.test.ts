import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';

/* What a file says is taken as it says it, or told: nothing of it is guessed. */

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const upload = (csv: string | Uint8Array, process = test.process, expected = 201) =>
  maren.post(`/imports?fileName=deals.csv&process=${process}`, csv, expected);
const preview = async (csv: string) => (await upload(csv)).body;
async function run(uploaded: { import: { id: string } }, settings: object) {
  await maren.post(`/imports/${uploaded.import.id}/run`, settings, 202);
  return finished(uploaded.import.id);
}
async function finished(id: string) {
  for (let tries = 0; tries < 200; tries++) {
    const { body } = await maren.get(`/imports/${id}`);
    if (body.state !== 'running' && body.state !== 'taking_back') return body;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('The import did not end');
}
async function importAll(csv: string, more: object = {}, process = test.process) {
  const { body } = await upload(csv, process);
  const done = await run(body, { ...body.preview.settings, ...more });
  const bad = done.bad > 0 ? String((await maren.get(`/imports/${done.id}/bad-rows.csv`)).body) : '';
  return { done, bad };
}
const dealBy = async (external: string) => {
  const { rows } = await asOwner(test.database, `select id from deals where external_id = $1 and status <> 'voided'`, [
    external,
  ]);
  return (await maren.get(`/deals/${rows[0].id}`)).body;
};
const cells = (
  uploaded: { preview: { rows: { cells: { text: string; problem: string | null }[] }[] } },
  column: number,
) => uploaded.preview.rows.map((row) => row.cells[column]?.problem ?? 'read');

describe('amounts', () => {
  it('are in the currency that their sign stands for, or are refused', async () => {
    const csv = 'Id,Deal,Value\nS1,A,"€1,234.50"\nS2,B,¥100.5\nS3,C,$40\nS4,D,£5\n';
    const { bad } = await importAll(csv);
    expect((await dealBy('S1')).values.value).toEqual({ minor: 123_450, currency: 'EUR' });
    expect(await dealBy('S1')).toMatchObject({ currency: 'EUR' });
    expect((await dealBy('S4')).values.value).toEqual({ minor: 500, currency: 'GBP' });
    expect(bad).toMatch(/S2.*“¥” stands for several currencies[\s\S]*S3.*“\$” stands for several currencies/);
  });
});

describe('dates', () => {
  const file = (...dates: string[]) =>
    `Deal,Close date\n${dates.map((date, place) => `D${place},${date}`).join('\n')}\n`;

  it('are read in the order that all cells of their column have together', async () => {
    expect(cells(await preview(file('03/04/2026', '24/12/2026')), 1)).toEqual(['read', 'read']);
    const monthFirst = await preview(`Id,Deal,Close date\nM1,A,03/04/2026\nM2,B,12/24/2026\n`);
    await run(monthFirst, monthFirst.preview.settings);
    expect((await dealBy('M1')).values.close_date).toBe('2026-03-04');
  });

  it('are asked about where both orders fit, and refused where a column mixes them', async () => {
    const either = await preview('Id,Deal,Close date\nE1,A,03/04/2026\n');
    expect(either.preview).toMatchObject({
      dateOrders: ['none', 'none', 'either'],
      problems: [{ pointer: '/columns/2/order' }],
    });
    await maren.post(`/imports/${either.import.id}/run`, either.preview.settings, 422);
    const columns = either.preview.settings.columns.map((column: object, place: number) =>
      place === 2 ? { ...column, order: 'month_first' } : column,
    );
    await run(either, { ...either.preview.settings, columns });
    expect((await dealBy('E1')).values.close_date).toBe('2026-03-04');
    const mixed = await preview(file('24/12/2026', '12/24/2026'));
    expect(mixed.preview.problems).toMatchObject([{ pointer: '/columns/1' }]);
    await maren.post(`/imports/${mixed.import.id}/run`, mixed.preview.settings, 422);
  });

  it('are decided anew where the file is read with another delimiter', async () => {
    const odd = await preview('Deal,x;Close date\nA,y;24/12/2026\nB,z;12/24/2026\n');
    const columns = [
      { to: 'deal', column: 'name', field: null },
      { to: 'field', column: null, field: 'close_date' },
    ];
    const settings = { ...odd.preview.settings, delimiter: ';', columns };
    const { body } = await maren.post(`/imports/${odd.import.id}/preview`, settings);
    expect(body.dateOrders).toEqual(['none', 'mixed']);
  });

  it('of another age are refused: no year 1, no year 9999', async () => {
    expect(cells(await preview(file('0001-01-01', '9999-12-31', '31/12/2026')), 1)).toEqual([
      expect.stringMatching(/must lie between 1900-01-01 and 2200-12-31/),
      expect.stringMatching(/must lie between/),
      'read',
    ]);
  });
});

it('numbers that are not plainly numbers are refused', async () => {
  const rows = ['0,125', '1.5,000', '12 34', '"1,250.5"'].map(
    (area, place) => `N${place},${area.includes(',') && !area.startsWith('"') ? `"${area}"` : area}`,
  );
  const uploaded = await preview(`Deal,Glazed area\n${rows.join('\n')}\n`);
  expect(cells(uploaded, 1).map((problem) => problem.includes('not a number'))).toEqual([true, true, true, false]);
});

describe('a deal that is known', () => {
  it('has its filled cells written: name, fields, and the stage where the gate lets it pass', async () => {
    await importAll('Id,Deal,Glazed area,Crop\nK1,Old name,300,Herbs\n');
    await maren.post(`/deals/${(await dealBy('K1')).id}/ticks`, { item: 'called', state: 'ticked' });
    const { done } = await importAll('Id,Deal,Value,Stage\nK1,New name,900,Survey\n', { known: 'update' });
    expect(done).toMatchObject({ updated: 1, bad: 0 });
    expect(await dealBy('K1')).toMatchObject({
      name: 'New name',
      stage: 'survey',
      values: { area: 300, value: { minor: 90_000 } },
      path: [{ kind: 'start' }, { kind: 'forward', to: 'survey' }],
    });
    await maren.post(`/imports/${done.id}/take-back`, undefined, 202);
    expect(await finished(done.id)).toMatchObject({ state: 'taken_back' });
    expect(await dealBy('K1')).toMatchObject({
      name: 'Old name',
      stage: 'brief',
      values: { area: 300, value: null },
      path: [{ kind: 'start' }],
    });
  });

  it('is not moved past its gate: that is told, and leaves no refused attempt', async () => {
    await importAll('Id,Deal\nK2,Held back\n');
    const { done, bad } = await importAll('Id,Deal,Crop,Stage\nK2,Held back,Herbs,Survey\n', { known: 'update' });
    expect(done).toMatchObject({ updated: 1, bad: 1 });
    expect(bad).toMatch(
      /K2.*The other cells were written, but the deal was not moved to “Survey”: 2 requirements hold/,
    );
    expect(await dealBy('K2')).toMatchObject({ stage: 'brief', attempt: null, values: { crop: 'herbs' } });
  });

  it('in another process is told and never touched', async () => {
    const other = await publishFirst(maren, { ...DOCUMENT, name: 'Elsewhere' });
    await importAll('Id,Deal\nF1,Theirs\n', {}, other);
    for (const known of ['skip', 'update']) {
      const { done, bad } = await importAll('Id,Deal\nF1,Mine\n', { known });
      expect(done).toMatchObject({ created: 0, updated: 0, skipped: 0, bad: 1 });
      expect(bad).toMatch(/belongs to a deal of another process/);
    }
    expect((await dealBy('F1')).name).toBe('Theirs');
  });
});

describe('people of one name', () => {
  it('stay two where they belong to two customers', async () => {
    await importAll(
      'Id,Deal,Customer,Contact\nC1,A,Fen Growers,Anna Smith\nC2,B,Moor Growers,Anna Smith\nC3,C,fen growers,anna smith\n',
    );
    const [first, second, third] = await Promise.all(['C1', 'C2', 'C3'].map(dealBy));
    expect(first.contact.id).not.toBe(second.contact.id);
    expect(third.contact.id).toBe(first.contact.id);
    const { body } = await maren.get(`/contacts?customer=${first.customer.id}`);
    expect(body.items).toMatchObject([{ name: 'Anna Smith', customer: first.customer.id }]);
  });

  it('are told, and none is chosen, where it is not known which is meant', async () => {
    const { bad } = await importAll('Id,Deal,Contact\nC4,D,Anna Smith\n');
    expect(bad).toMatch(/There are 2 contacts called “Anna Smith”\. Match a column to the customer/);
    const { done } = await importAll('Id,Contact,Crop,Deal\nC1,Anna Smith,Herbs,A\n', { known: 'update' });
    expect(done).toMatchObject({ updated: 1, bad: 0 });
  });

  it('are told of owners too, who have an e-mail address to be told apart by', async () => {
    const twin = {
      name: 'Priya Nandan',
      email: 'twin@test.example',
      role: 'seller',
      teams: [],
      password: 'a long password',
    };
    await maren.post('/people', twin, 201);
    const uploaded = await preview('Deal,Owner\nA,Priya Nandan\nB,priya@test.example\n');
    expect(cells(uploaded, 1)).toEqual([
      expect.stringMatching(/several people called “Priya Nandan”. Write the e-mail/),
      'read',
    ]);
  });

  it('are told of customers', async () => {
    for (let twin = 0; twin < 2; twin++) await maren.post('/customers', { name: 'Twin Growers', values: {} }, 201);
    const { bad } = await importAll('Id,Customer\nC5,twin growers\n');
    expect(bad).toMatch(/There are 2 customers called “twin growers”/);
  });
});

describe('a file', () => {
  const utf16 = (text: string, order: 'le' | 'be') => {
    const bytes = Buffer.from(`\ufeff${text}`, 'utf16le');
    return order === 'le' ? bytes : bytes.swap16();
  };

  it('in UTF-16 is read by its mark (RFC 2781), and named as what it is without one', async () => {
    for (const order of ['le', 'be'] as const) {
      const { body } = await upload(utf16(`Id;Deal\nU${order};Växthus\n`, order));
      await run(body, body.preview.settings);
      expect((await dealBy(`U${order}`)).name).toBe('Växthus');
    }
    const { body: problem } = await upload(utf16('Deal\nOne\n', 'le').subarray(2), test.process, 415);
    expect(problem.detail).toMatch(/UTF-16 without its mark/);
  });

  it('may end its lines in more than one way', async () => {
    const { body } = await upload('Id,Deal\r\nL1,One\nL2,Two\r\nL3,Three\n');
    expect(await run(body, body.preview.settings)).toMatchObject({ created: 3, bad: 0 });
  });

  it('with a quote that is never closed is told the line on which it opens', async () => {
    const { body } = await upload(
      'Deal,Note\nA,"one\ntwo"\nB,"a ""doubled"" one"\nC,"never\nclosed,\n\n',
      test.process,
      422,
    );
    expect(body.detail).toBe('The quote that is opened on line 5 is never closed.');
  });

  it('with more columns than anyone matches is refused at once', async () => {
    const { body } = await upload(`${'x,'.repeat(100_000)}x\n1\n`, test.process, 422);
    expect(body.detail).toBe('Line 1 has 100001 columns; a file may have at most 500.');
  });

  it('with a cell longer than any text has a bad row, however it is made up', async () => {
    const spaces = `1${' '.repeat(40_000)}1`;
    const { bad } = await importAll(`Id,Deal,Glazed area\nQ1,A,${spaces}\n`);
    expect(bad).toMatch(/at most 20,000 characters/);
  });
});

it('rows that are given back are CSV, harmless in a spreadsheet, and are read again as they were', async () => {
  const names = ['=1+2', '+44 20 7946 0000', '-5', '-2+3+cmd', '@x', "'quoted", "'twas"];
  const csv = `Deal,Glazed area\n${names.map((name) => `${name},much`).join('\n')}\n`;
  const { body } = await maren.post(`/imports?fileName=evil.html&process=${test.process}`, csv, 201);
  const done = await run(body, body.preview.settings);
  const answer = await maren.get(`/imports/${done.id}/bad-rows.csv`);
  expect(answer.headers.get('Content-Type')).toMatch(/^text\/csv/);
  expect(answer.headers.get('Content-Disposition')).toMatch(/^attachment/);
  const given = String(answer.body);
  const first = given.split(/\r?\n/).map((line) => line.split(',')[0]?.replace(/^\ufeff/, ''));
  expect(first.slice(1, 8)).toEqual(["'=1+2", '+44 20 7946 0000', '-5', "'-2+3+cmd", "'@x", "''quoted", "''twas"]);
  const { done: again } = await importAll(given.replaceAll(',much', ',7'));
  expect(again).toMatchObject({ created: 7, bad: 0 });
  const { body: deals } = await maren.get('/deals?limit=100');
  expect(deals.items.map(({ name }: { name: string }) => name)).toEqual(expect.arrayContaining(names));
});

it('a deal entered long ago is past its target since then, not since the import', async () => {
  const process = await publishFirst(maren, { ...DOCUMENT, name: 'Ruled import', stages: [stage('only', 'Only')] });
  await maren.patch(`/processes/${process}`, {
    houseRules: { past_target: 'flag', idle: 'off', close_date_past: 'off', no_next_action: 'off', step_late: 'off' },
  });
  await importAll('Id,Deal,In stage since\nH1,Old,2026-09-01\n', {}, process);
  expect((await dealBy('H1')).findings).toMatchObject([{ kind: 'past_target', sinceDays: 0 }]);
});
