import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, publishFirst, stage, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let priya: Client;
let maren: Client;
let kind: string;
beforeAll(async () => {
  test = await startTestServer();
  kind = (await (await test.as('maren')).post('/document-kinds', { name: 'Survey report' }, 201)).body.id;
});
beforeEach(async () => {
  [priya, maren] = await Promise.all([test.as('priya'), test.as('maren')]);
});
afterAll(() => test.stop());

const begin = async (process = test.process) =>
  (await priya.post('/deals', { process, name: 'Deal', values: {} }, 201)).body;
const present = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}`)).body;
const attach = (
  deal: { id: string },
  content: Uint8Array | string,
  name: string,
  status = 201,
  who = priya,
  as = kind,
) => who.upload(`/deals/${deal.id}/documents?kind=${as}&name=${encodeURIComponent(name)}`, content, status);
const chunksLeft = async () =>
  Number((await asOwner(test.database, 'select count(*) as n from document_chunks')).rows[0].n);

/* The first bytes by which each format is told: PNG (ISO/IEC 15948, 5.2), PDF (ISO 32000-1, 7.5.2), ZIP (APPNOTE.TXT, 4.3.7). */
const PNG = Uint8Array.from([
  0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 0, 0, 1, 0, 0, 0, 1, 8, 6, 0,
  0, 0, 0x1f, 0x15, 0xc4, 0x89, 0, 0, 0, 0, 0x49, 0x44, 0x41, 0x54,
]);
const PDF = '%PDF-1.7\n%\u00e2\u00e3\n1 0 obj\n<<>>\nendobj\n';
const ZIP = Uint8Array.from([0x50, 0x4b, 0x03, 0x04, 20, 0, 0, 0, 0, 0, ...new Uint8Array(16), 1, 0, 0, 0, 0x61]);

describe('a document', () => {
  it('is attached with its kind, its type found from its bytes, and comes back as it was', async () => {
    const deal = await begin();
    const { body } = await attach(deal, PNG, 'Ridge.png');
    expect(body.documents).toMatchObject([
      { kind: { name: 'Survey report' }, name: 'Ridge.png', mediaType: 'image/png', namedAs: null, bytes: PNG.length },
    ]);
    expect((await present(deal)).documents).toEqual(body.documents);
    const answer = await priya.download(`/deals/${deal.id}/documents/${body.documents[0].id}/content`);
    expect(answer.headers.get('Content-Disposition')).toBe('attachment; filename=Ridge.png');
    expect(answer.headers.get('Content-Security-Policy')).toContain('sandbox');
    expect(answer.headers.get('X-Content-Type-Options')).toBe('nosniff');
    expect(new Uint8Array(await answer.arrayBuffer())).toEqual(PNG);
  });

  it.each([
    ['a picture', PNG, 'a.png', 'image/png', null],
    ['a page', PDF, 'a.pdf', 'application/pdf', null],
    ['an archive', ZIP, 'a.zip', 'application/zip', null],
    ['a page called a picture', PDF, 'a.png', 'application/pdf', 'image/png'],
    ['a web page', '<!doctype html><script>alert(1)</script>', 'a.html', 'text/plain', 'text/html'],
    [
      'a drawing with a script',
      '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>',
      'a.svg',
      'text/plain',
      'image/svg+xml',
    ],
    ['words', 'Ridge 0.82\n', 'a.txt', 'text/plain', null],
  ])(
    'that is %s is told by its bytes, and where its name says otherwise',
    async (_what, content, name, mediaType, namedAs) => {
      const { body } = await attach(await begin(), content, name);
      const [{ mediaType: found, namedAs: said }] = body.documents;
      // A drawing may be told as the XML that it is; what matters is that nothing takes it for something to run.
      expect(['application/xml', mediaType]).toContain(found);
      expect(said).toBe(namedAs);
    },
  );

  it('is refused where it is empty, too large, cut off or strangely called, and leaves nothing', async () => {
    const deal = await begin();
    const before = await chunksLeft();
    expect((await attach(deal, '', 'a.txt', 422)).body.errors[0].detail).toBe('This file is empty.');
    expect((await attach(deal, new Uint8Array(26_000_000), 'a.bin', 413)).body.detail).toContain('25 MB');
    await attach(deal, 'x', 'a'.repeat(300), 400);
    expect((await attach(deal, 'x', '../../etc/passwd', 400)).body.errors[0].pointer).toBe('/query/name');
    await attach(deal, 'x', 'C:\\a.txt', 400);
    await attach(deal, 'x', 'a\u0000b', 400);
    await expect(priya.cutOff(`/deals/${deal.id}/documents?kind=${kind}&name=a.bin`, 1_000_000)).rejects.toThrow();
    expect((await present(deal)).documents).toEqual([]);
    expect(await chunksLeft()).toBe(before);
  });

  it('of the same bytes is told as a duplicate; the same press again is one', async () => {
    const deal = await begin();
    const path = `/deals/${deal.id}/documents?kind=${kind}&name=one.txt`;
    const first = await priya.upload(path, 'the same', 201, { 'Idempotency-Key': 'press' });
    expect((await priya.upload(path, 'the same', 201, { 'Idempotency-Key': 'press' })).body).toEqual(first.body);
    expect((await attach(deal, 'the same', 'two.txt', 409)).body.detail).toContain('“one.txt”');
    expect((await present(deal)).documents).toHaveLength(1);
  });

  it('is not there for another team, nor attached by a viewer, nor of a kind that is not offered', async () => {
    const deal = await begin();
    const { body } = await attach(deal, 'words', 'a.txt');
    const path = `/deals/${deal.id}/documents/${body.documents[0].id}`;
    await (await test.as('bea')).get(`${path}/content`, 404);
    await attach(deal, 'x', 'b.txt', 404, await test.as('bea'));
    await attach(deal, 'x', 'b.txt', 403, await test.as('lena'));
    const { body: old } = await maren.post('/document-kinds', { name: 'Old form' }, 201);
    await maren.patch(`/document-kinds/${old.id}`, { withdrawn: true });
    expect((await attach(deal, 'x', 'b.txt', 400, priya, old.id)).body.errors[0].pointer).toBe('/query/kind');
  });

  it('is removed with its record kept, and erased with its bytes and name gone', async () => {
    const deal = await begin();
    const { body } = await attach(deal, 'private', 'Adel.txt');
    const [{ id }] = body.documents;
    const { body: without } = await priya.send('DELETE', `/deals/${deal.id}/documents/${id}`, undefined, 200);
    expect(without.documents).toEqual([]);
    await priya.send('DELETE', `/deals/${deal.id}/documents/${id}`, undefined, 404);
    await priya.get(`/deals/${deal.id}/documents/${id}/content`, 404);
    const { body: journal } = await maren.get(`/deals/${deal.id}/journal`);
    const [removed, attached] = journal.items;
    expect([removed.kind, attached.kind, attached.text]).toEqual(['document_removed', 'document_attached', 'Adel.txt']);
    await maren.send('DELETE', `/deals/${deal.id}/journal/${attached.seq}/text`, undefined, 200);
    const { rows } = await asOwner(
      test.database,
      `select name, digest is not null as kept from documents where id = '${id}'`,
    );
    expect(rows).toEqual([{ name: '', kept: true }]);
    expect((await asOwner(test.database, `select 1 from document_chunks where document_id = '${id}'`)).rows).toEqual(
      [],
    );
  });
});

describe('a gate that asks for a document, and for activities', () => {
  it('is met by them, and a document that is removed is a finding from then on', async () => {
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Asking for papers',
      stages: [
        stage('a', 'Brief'),
        stage('b', 'Survey', {
          enter: [
            { id: 'paper', level: 'hold', binds: 'must_stay', kind: 'document', document: kind },
            {
              id: 'visits',
              level: 'hold',
              binds: 'at_move',
              kind: 'activities',
              activity: 'visit',
              least: 2,
              within: 'stay',
            },
          ],
        }),
      ],
    });
    const deal = await begin(process);
    expect(deal.gate.items).toMatchObject([
      { id: 'paper', state: 'missing', remedy: { kind: 'attach', document: kind } },
      { id: 'visits', state: 'unmet', actual: 'none yet', remedy: { kind: 'log', activity: 'visit' } },
    ]);
    await attach(deal, PDF, 'Report.pdf');
    await priya.post(`/deals/${deal.id}/activities`, { kind: 'visit', text: 'Saw it' }, 201);
    await priya.post(`/deals/${deal.id}/activities`, { kind: 'visit', text: 'Again' }, 201);
    const { revision, documents } = await present(deal);
    const { body } = await priya.post(`/deals/${deal.id}/moves`, { target: { to: 'stage', stage: 'b' }, revision });
    expect(body.deal).toMatchObject({ stage: 'b', standing: 'clear' });
    await priya.send('DELETE', `/deals/${deal.id}/documents/${documents[0].id}`, undefined, 200);
    expect(await present(deal)).toMatchObject({ standing: 'held', findings: [{ kind: 'document' }] });
  });

  it('cannot be published for a kind that is gone', async () => {
    const gone = { id: 'x', level: 'hold', binds: 'must_stay', kind: 'document', document: 'nothing' } as const;
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Gone kind' });
    const { body: draft } = await maren.post(`/processes/${process}/draft`, undefined, 201);
    const document = { ...DOCUMENT, name: 'Gone kind', stages: [stage('a', 'A', { enter: [gone] })] };
    await maren.send('PUT', `/processes/${process}/draft`, { document }, 200, { 'If-Match': `"${draft.revision}"` });
    const { body } = await maren.get(`/processes/${process}/draft/preview`);
    expect(body.problems).toMatchObject([{ pointer: '/stages/0/enter/0/document' }]);
  });
});

describe('a tick that asks for a document, by a manager', () => {
  it('is refused without it and to others, told at its place, and holds the deal again once the document is gone', async () => {
    const signed = { text: 'Signed', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
    const checklist = [
      { ...signed, id: 'signed', document: kind, message: 'On paper' },
      { ...signed, id: 'seen', who: 'manager' },
    ] as const;
    const stages = [stage('a', 'Brief', { checklist }), stage('b', 'Survey')];
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'With evidence', stages });
    const deal = await begin(process);
    const tick = async (item: string, status: number, who = priya) =>
      (await who.post(`/deals/${deal.id}/ticks`, { item, state: 'ticked' }, status)).body;
    expect((await tick('signed', 422)).errors).toEqual([
      { pointer: '/item', detail: 'Attach the document that this needs as evidence first.' },
    ]);
    expect((await tick('seen', 403)).errors).toEqual([{ pointer: '/item', detail: 'This is ticked by a manager.' }]);
    await tick('seen', 200, maren);
    const { body: attached } = await attach(deal, PDF, 'signed.pdf');
    await tick('signed', 200);
    const { revision } = await present(deal);
    await priya.post(`/deals/${deal.id}/moves`, { target: { to: 'stage', stage: 'b' }, revision });
    expect((await present(deal)).standing).toBe('clear');
    await priya.send('DELETE', `/deals/${deal.id}/documents/${attached.documents[0].id}`, undefined, 200);
    expect(await present(deal)).toMatchObject({
      standing: 'held',
      owed: [{ message: 'On paper', remedy: { kind: 'attach', document: kind } }],
    });
  });
});
