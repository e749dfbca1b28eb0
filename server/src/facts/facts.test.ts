import type { ProcessDocument } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import {
  DOCUMENT,
  FIELDS,
  publishFirst,
  saveAndPublish,
  startTestServer,
  type TestServer,
} from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const refused = async (field: object) => {
  const { body } = await maren.post('/fields', { holder: 'deal', type: 'number', name: 'Tried', ...field }, 400);
  return body.errors.map(({ pointer }: { pointer: string }) => pointer);
};

describe('the catalogue', () => {
  it('lists the built-in fields first, each field once, page by page', async () => {
    const ids: string[] = [];
    for (let next: string | null = ''; next !== null; ) {
      const { body } = await maren.get(`/fields?limit=5${next ? `&after=${next}` : ''}`);
      ids.push(...body.items.map(({ id }: { id: string }) => id));
      next = body.next;
    }
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids.indexOf('owner')).toBeLessThan(ids.indexOf('area'));
    expect(ids.slice(-4)).toEqual(['area', 'crop', 'paid', 'credit']);
  });

  it('refuses a field that could never be filled, at its place', async () => {
    expect(await refused({ name: 'Glazed AREA' })).toEqual(['/name']);
    expect(await refused({ type: 'choice' })).toEqual(['/choices']);
    expect(await refused({ choices: [{ id: 'a', name: 'A' }] })).toEqual(['/choices']);
    expect(await refused({ min: 3, max: 2 })).toEqual(['/max']);
    expect(await refused({ type: 'calculated' })).toEqual(['/formula']);
    expect(await refused({ type: 'nothing' })).toEqual(['/type']);
    expect(await refused({ firstDay: '1700-01-01' })).toEqual(['/firstDay']);
    expect(await refused({ type: 'date', firstDay: '2300-01-01' })).toEqual(['/firstDay']);
    expect(await refused({ type: 'date', firstDay: '1900-02-29' })).toEqual(['/firstDay']);
    const twice = [
      { id: 'a', name: 'A' },
      { id: 'a', name: 'B' },
    ];
    expect(await refused({ type: 'choice', choices: twice })).toEqual(['/choices']);
  });

  it('a date lies where its field says, up to the last day that there is', async () => {
    const days = { firstDay: '1700-01-01', lastDay: '9999-12-31' };
    const { body: field } = await maren.post('/fields', { holder: 'deal', type: 'date', name: 'Built', ...days }, 201);
    const left = { of: 'field', field: field.id };
    const soon = { kind: 'between', left, low: { of: 'today', plus: 0 }, high: { of: 'today', plus: 60 } };
    const [first, ...others] = DOCUMENT.stages;
    const asked = { id: 'soon', level: 'hold', binds: 'must_stay', kind: 'criterion', criterion: soon };
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Built long ago',
      sections: [...DOCUMENT.sections, { id: 'own', name: 'Own', fields: [field.id] }],
      stages: [{ ...first, enter: [asked] }, ...others],
    } as ProcessDocument);
    const begin = (built: string, expected: number) =>
      maren.post('/deals', { process, name: 'Palm house', values: { [field.id]: built } }, expected);
    await begin('1699-12-31', 400);
    for (const built of ['1851-05-01', '9999-12-31']) {
      const { body: deal } = await begin(built, 201);
      expect(deal.values[field.id]).toBe(built);
      expect(deal.findings.map(({ requirement }: { requirement: string }) => requirement)).toContain('soon');
    }
    await maren.get(`/processes/${process}/lanes`);
  });

  it('a calculated number reads numbers and amounts of the same record alone', async () => {
    const of = (field: string) => ({
      kind: 'multiply',
      left: { kind: 'field', field },
      right: { kind: 'number', value: 2 },
    });
    expect(await refused({ type: 'calculated', formula: of('crop') })).toEqual(['/formula']);
    expect(await refused({ type: 'calculated', formula: of('area'), holder: 'customer' })).toEqual(['/formula']);
    const { body: field } = await maren.post(
      '/fields',
      { holder: 'deal', type: 'calculated', name: 'Panes', formula: of('area') },
      201,
    );
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Panes',
      sections: [...DOCUMENT.sections, { id: 'own', name: 'Own', fields: [field.id] }],
    });
    const { body: deal } = await maren.post('/deals', { process, name: 'Deal', values: { area: 150 } }, 201);
    expect(deal.values[field.id]).toBe(300);
    const edit = (changes: object[], expected = 200) => maren.patch(`/deals/${deal.id}`, { changes }, expected);
    expect((await edit([{ field: 'area', saw: 150, value: 200.5 }])).body.values[field.id]).toBe(401);
    expect((await edit([{ field: 'area', saw: 200.5, value: null }])).body.values[field.id]).toBeNull();
    const { body: outer } = await maren.post(
      '/fields',
      { holder: 'deal', type: 'calculated', name: 'Panes and more', formula: of(field.id) },
      201,
    );
    const nested = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Panes of panes',
      sections: [...DOCUMENT.sections, { id: 'own', name: 'Own', fields: [outer.id] }],
      stages: DOCUMENT.stages.map((stage) => ({ ...stage, enter: [] })),
    });
    const { body: inner } = await maren.post('/deals', { process: nested, name: 'Deal', values: { area: 5 } }, 201);
    expect(inner.values[outer.id]).toBe(20);
    const { body } = await edit([{ field: field.id, saw: null, value: 7 }], 400);
    expect(body.errors[0].pointer).toBe('/changes/0/value');
  });

  it('a choice that is withdrawn stays where it was chosen, and is chosen no more once that is published', async () => {
    const document = { ...DOCUMENT, name: 'Withdrawn' };
    const process = await publishFirst(maren, document);
    const { body: deal } = await maren.post('/deals', { process, name: 'Deal', values: { crop: 'herbs' } }, 201);
    const crop = FIELDS.find(({ id }) => id === 'crop');
    const choices = [{ id: 'tomatoes', name: 'Tomatoes on the vine' }];
    await maren.patch('/fields/crop', { choices, saw: { choices: crop?.choices } });
    await maren.post(`/processes/${process}/draft`, {}, 201);
    await saveAndPublish(maren, process, document);
    const { body } = await maren.post('/deals', { process, name: 'Later', values: { crop: 'herbs' } }, 400);
    expect(body.errors).toEqual([{ pointer: '/values/crop', detail: '“Herbs” is no longer offered.' }]);
    const edit = (value: unknown, saw: unknown, expected = 200) =>
      maren.patch(`/deals/${deal.id}`, { changes: [{ field: 'crop', saw, value }] }, expected);
    await edit('herbs', 'herbs');
    await edit('tomatoes', 'herbs');
    await edit('herbs', 'tomatoes', 400);
  });
});

describe('customers and contacts', () => {
  const credit = {
    id: 'credit',
    level: 'hold',
    binds: 'must_stay',
    kind: 'criterion',
    criterion: { kind: 'equals', left: { of: 'field', field: 'credit' }, right: { of: 'value', value: true } },
  } as const;

  it('a customer’s field holds its deals, all of them, from the moment it changes', async () => {
    const [first, ...others] = DOCUMENT.stages;
    if (!first) throw new Error('No stage');
    const process = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Credit',
      stages: [{ ...first, enter: [credit] }, ...others],
    });
    const { body: customer } = await maren.post(
      '/customers',
      { name: 'Fennick Salads', values: { credit: true } },
      201,
    );
    const deals = await Promise.all(
      ['One', 'Two'].map(
        async (name) => (await maren.post('/deals', { process, name, values: { customer: customer.id } }, 201)).body,
      ),
    );
    expect(deals.map(({ standing }) => standing)).toEqual(['clear', 'clear']);
    await maren.patch(`/customers/${customer.id}`, { name: 'Fennick Salads', values: { credit: false } });
    for (const { id } of deals)
      expect((await maren.get(`/deals/${id}`)).body).toMatchObject({
        standing: 'held',
        findings: [{ kind: 'criterion' }],
      });
    await maren.patch(`/customers/${customer.id}`, { name: 'Fennick', values: { credit: true } });
    expect((await maren.get(`/deals/${deals[0].id}`)).body).toMatchObject({
      standing: 'clear',
      customer: { name: 'Fennick' },
    });
  });

  it('refuses fields that are none of its own, and values that do not fit, at their place', async () => {
    const { body } = await maren.post('/customers', { name: 'Wrong', values: { area: 1, credit: 'maybe' } }, 400);
    expect(body.errors.map(({ pointer }: { pointer: string }) => pointer)).toEqual(['/values/area', '/values/credit']);
    await maren.patch('/customers/00000000-0000-4000-8000-000000000000', { name: 'x', values: {} }, 404);
    expect((await maren.get('/customers?find=wrong')).body.items).toEqual([]);
  });

  it('are found by any part of their name, signs taken as they stand, page by page in order', async () => {
    for (const name of ['Ébène Gardens', '100% Basil', '100 Herbs', 'ebene nursery'])
      await maren.post('/customers', { name, values: {} }, 201);
    const names = async (find: string) =>
      (await maren.get(`/customers?find=${encodeURIComponent(find)}`)).body.items.map(
        ({ name }: { name: string }) => name,
      );
    expect(await names('100%')).toEqual(['100% Basil']);
    expect(await names('ÉBÈNE')).toEqual(['Ébène Gardens']);
    const { body: first } = await maren.get('/customers?limit=2');
    const { body: rest } = await maren.get(`/customers?limit=50&after=${first.next}`);
    expect([...first.items, ...rest.items].map(({ name }) => name)).toEqual([
      '100 Herbs',
      '100% Basil',
      'ebene nursery',
      'Fennick',
      'Ébène Gardens',
    ]);
  });

  it('contacts are told by customer', async () => {
    const { body: customer } = await maren.post('/customers', { name: 'With people', values: {} }, 201);
    await maren.post('/contacts', { customer: customer.id, name: 'Adel', values: {} }, 201);
    await maren.post('/contacts', { customer: null, name: 'Nobody’s', values: {} }, 201);
    expect((await maren.get(`/contacts?customer=${customer.id}`)).body.items).toMatchObject([{ name: 'Adel' }]);
  });

  it('a customer under another name rewrites no deal, nor do facts of it that no gate reads, nor an edit to what is so already', async () => {
    const { body: customer } = await maren.post('/customers', { name: 'Orla Gardens', values: { credit: true } }, 201);
    const values = { customer: customer.id };
    const { body: deal } = await maren.post('/deals', { process: test.process, name: 'Untouched', values }, 201);
    const written = async () => {
      const { rows } = await asOwner(
        test.database,
        `select d.xmin::text as deal, h.xmin::text as head from deals d join deal_heads h on h.deal_id = d.id where d.id = $1`,
        [deal.id],
      );
      return rows[0];
    };
    const before = await written();
    await maren.patch(`/customers/${customer.id}`, { name: 'Orla Botanic' });
    await maren.patch(`/customers/${customer.id}`, { values: { credit: false } });
    expect(await written()).toEqual(before);
    await maren.patch(`/deals/${deal.id}`, { name: 'Untouched', changes: [{ field: 'area', saw: null, value: null }] });
    expect(await written()).toEqual(before);
    await maren.patch(`/deals/${deal.id}`, { changes: [{ field: 'area', saw: null, value: 5 }] });
    expect((await written())?.deal).not.toBe(before?.deal);
  });
});
