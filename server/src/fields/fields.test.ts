import type { Field } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import {
  DOCUMENT,
  filled,
  publishFirst,
  saveAndPublish,
  stage,
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

const COLOURS = [
  { id: 'r', name: 'Red' },
  { id: 'g', name: 'Green' },
  { id: 'b', name: 'Blue' },
];
const addField = async (field: object): Promise<Field> =>
  (await maren.post('/fields', { holder: 'deal', type: 'choice', ...field }, 201)).body;
const fieldNow = async (id: string): Promise<Field> =>
  (await maren.get('/fields?limit=200')).body.items.find((field: Field) => field.id === id);
const change = async (field: Field, parts: Partial<Field>, expected = 200) => {
  const saw = Object.fromEntries(
    Object.keys(parts).flatMap((part) => (part in field ? [[part, field[part as keyof Field]]] : [])),
  );
  return (await maren.patch(`/fields/${field.id}`, { ...parts, saw }, expected)).body;
};
const usesOf = async (id: string) =>
  (await maren.get('/fields/uses?limit=200')).body.items.find((uses: { field: string }) => uses.field === id);
const listing = (name: string, fields: readonly string[], more: Parameters<typeof stage>[2] = {}) => ({
  ...DOCUMENT,
  name,
  sections: [...DOCUMENT.sections, { id: 'own', name: 'Own', fields }],
  stages: [stage('only', 'Only', more)],
});
const deal = async (process: string, values: object) =>
  (await maren.post('/deals', { process, name: 'Deal', values }, 201)).body;

describe('a field', () => {
  it('is another type until it is used, and keeps it then, with the way round told', async () => {
    const field = await addField({ name: 'Roof', type: 'text' });
    expect(await change(field, { type: 'number', unit: 'm' })).toMatchObject({ type: 'number', unit: 'm' });
    const now = await fieldNow(field.id);
    await publishFirst(maren, listing('Roofs', [field.id]) as never);
    const refused = await change(now, { unit: 'ft' }, 422);
    expect(refused.errors).toEqual([
      { pointer: '/type', detail: expect.stringMatching(/^Roof is in use.*Make another field/) },
    ]);
    expect(await change(now, { max: 9, help: 'To the ridge' })).toMatchObject({
      max: 9,
      unit: 'm',
      help: 'To the ridge',
    });
    const log = (await maren.get('/settings/log?limit=1')).body.items[0];
    expect(log).toMatchObject({ what: 'field', subject: 'Roof, of the deal', by: 'Maren Holt' });
    expect(log.changes).toContainEqual({ part: 'at most', before: null, after: '9' });
  });

  it('of a customer is used as soon as one has it', async () => {
    const field = await addField({ name: 'Size', type: 'number', holder: 'customer' });
    await maren.post('/customers', { name: 'Sized', values: { [field.id]: 3 } }, 201);
    await change(field, { type: 'text' }, 422);
    expect(await usesOf(field.id)).toMatchObject({ used: true, filled: [{ process: null, filled: 1 }] });
  });

  it('that somebody else changed is not changed over that; other parts of it are', async () => {
    const field = await addField({ name: 'Shade', choices: COLOURS });
    await change(field, { choices: [...COLOURS, { id: 'w', name: 'White' }] });
    const refused = await change(field, { choices: COLOURS.slice(1) }, 409);
    expect(refused.errors).toMatchObject([{ pointer: '/choices' }]);
    expect(await change(field, { name: 'Shading' })).toMatchObject({ name: 'Shading' });
    expect((await fieldNow(field.id)).choices).toHaveLength(4);
  });

  it('says where it is used and how often it is filled', async () => {
    const field = await addField({ name: 'Tint', choices: COLOURS });
    const red = { of: 'value', value: 'r' } as const;
    const asks = {
      id: 'red',
      level: 'hold',
      binds: 'at_move',
      kind: 'criterion',
      criterion: { kind: 'differs', left: { of: 'field', field: field.id }, right: red },
    } as const;
    const process = await publishFirst(maren, listing('Tints', [field.id], { enter: [asks] }) as never);
    await deal(process, { [field.id]: 'g' });
    await deal(process, {});
    await maren.post(`/processes/${process}/draft`, {}, 201);
    expect(await usesOf(field.id)).toEqual({
      field: field.id,
      used: true,
      readBy: [],
      uses: [
        {
          process: { id: process, name: 'Tints' },
          in: ['draft', 'live'],
          way: 'listed',
          place: 'Own',
          what: '',
          choices: [],
        },
        {
          process: { id: process, name: 'Tints' },
          in: ['draft', 'live'],
          way: 'to_enter',
          place: 'Only',
          what: 'Tint is not Red',
          choices: ['r'],
        },
      ],
      filled: [{ process: { id: process, name: 'Tints' }, of: 2, filled: 1 }],
    });
  });
});

describe('a choice put in place of another', () => {
  it('is so in every deal, closed ones too, told in their journals, and judged again', async () => {
    const field = await addField({ name: 'Glass', type: 'choices', choices: COLOURS });
    const asks = {
      id: 'blue',
      level: 'hold',
      binds: 'must_stay',
      kind: 'criterion',
      criterion: { kind: 'includes_any', left: { of: 'field', field: field.id }, values: ['b'] },
    } as const;
    const process = await publishFirst(maren, listing('Glass', [field.id], { enter: [asks] }) as never);
    const [open, both, other] = [
      await deal(process, { [field.id]: ['g', 'r'] }),
      await deal(process, { [field.id]: ['g', 'b'] }),
      await deal(process, { [field.id]: ['r'] }),
    ];
    const closed = await deal(process, { [field.id]: ['g'] });
    await maren.post(`/deals/${closed.id}/moves`, {
      target: { to: 'outcome', outcome: 'lost' },
      revision: closed.revision,
    });
    expect(open.standing).toBe('held');
    await maren.post(`/fields/${field.id}/mapping`, { from: 'g', to: 'b' });
    const values = async (id: string) => (await maren.get(`/deals/${id}`)).body.values[field.id];
    expect(await Promise.all([open, both, other, closed].map(({ id }) => values(id)))).toEqual([
      ['b', 'r'],
      ['b'],
      ['r'],
      ['b'],
    ]);
    expect((await maren.get(`/deals/${open.id}`)).body.standing).toBe('clear');
    const journal = (await maren.get(`/deals/${closed.id}/journal`)).body.items;
    expect(JSON.stringify(journal[0])).toContain('Blue');
    expect((await fieldNow(field.id)).choices?.find(({ id }) => id === 'g')).toMatchObject({ withdrawn: true });
    const work = (await maren.get(`/work?subject=${field.id}`)).body.items[0];
    expect(work).toMatchObject({ kind: 'choice', state: 'done', deals: 3 });
  });

  it('of a customer changes the customers, and judges their deals', async () => {
    const field = await addField({ name: 'Ground', holder: 'customer', choices: COLOURS });
    const asks = {
      id: 'ground',
      level: 'flag',
      binds: 'must_stay',
      kind: 'criterion',
      criterion: { kind: 'one_of', left: { of: 'field', field: field.id }, values: ['b'] },
    } as const;
    const process = await publishFirst(maren, listing('Ground', [], { enter: [asks] }) as never);
    const { body: customer } = await maren.post('/customers', { name: 'Grounded', values: { [field.id]: 'g' } }, 201);
    const flagged = await deal(process, { customer: customer.id });
    expect(flagged.standing).toBe('flagged');
    await maren.post(`/fields/${field.id}/mapping`, { from: 'g', to: 'b' });
    expect((await maren.get(`/deals/${flagged.id}`)).body).toMatchObject({
      standing: 'clear',
      partyValues: { [field.id]: 'b' },
    });
  });

  it('is refused where a version that deals follow does not know it, with the way round', async () => {
    const field = await addField({ name: 'Frame', choices: COLOURS });
    const process = await publishFirst(
      maren,
      listing('Frames', [field.id], { enter: [filled('f', field.id)] }) as never,
    );
    await change(field, { choices: [...COLOURS, { id: 'w', name: 'White' }] });
    const refused = await maren.post(`/fields/${field.id}/mapping`, { from: 'r', to: 'w' }, 422);
    expect(refused.body.errors).toEqual([
      { pointer: '/to', detail: expect.stringMatching(/Version 1 of Frames.*Publish the process anew first/) },
    ]);
    await maren.post(`/processes/${process}/draft`, {}, 201);
    await saveAndPublish(maren, process, listing('Frames', [field.id]) as never);
    await maren.post(`/fields/${field.id}/mapping`, { from: 'r', to: 'w' });
    for (const [from, to, pointer] of [
      ['x', 'w', '/from'],
      ['g', 'g', '/to'],
      ['g', 'x', '/to'],
      ['g', 'r', '/to'],
    ])
      expect((await maren.post(`/fields/${field.id}/mapping`, { from, to }, 422)).body.errors).toMatchObject([
        { pointer },
      ]);
    await maren.post('/fields/area/mapping', { from: 'g', to: 'r' }, 409);
    await maren.post('/fields/nothing/mapping', { from: 'g', to: 'r' }, 404);
  });
});

describe('a formula', () => {
  const of = (id: string) => ({ kind: 'field', field: id }) as const;
  const twice = (id: string) => ({ kind: 'add', left: of(id), right: of(id) }) as const;

  it('of a deal is another from the next publish on; of a customer at once, and deals are judged by it', async () => {
    const staff = await addField({ name: 'Hands', type: 'number', holder: 'customer' });
    const number = await addField({ name: 'Pairs', type: 'calculated', holder: 'customer', formula: twice(staff.id) });
    const enough = {
      id: 'enough',
      level: 'hold',
      binds: 'must_stay',
      kind: 'criterion',
      criterion: { kind: 'at_most', left: { of: 'field', field: number.id }, right: { of: 'value', value: 10 } },
    } as const;
    const own = await addField({ name: 'Panes', type: 'calculated', formula: twice('area') });
    const process = await publishFirst(maren, listing('Pairs', [own.id], { enter: [enough] }) as never);
    const { body: customer } = await maren.post('/customers', { name: 'Handy', values: { [staff.id]: 6 } }, 201);
    const held = await deal(process, { customer: customer.id, area: 5 });
    expect(held).toMatchObject({ standing: 'held', values: { [own.id]: 10 } });
    const set = (field: Field, formula: object, saw: object, expected = 200) =>
      maren.send('PUT', `/fields/${field.id}/formula`, { formula, saw }, expected);
    await set(number, of(staff.id), twice(staff.id));
    expect((await maren.get(`/deals/${held.id}`)).body).toMatchObject({
      standing: 'clear',
      partyValues: { [number.id]: 6 },
    });
    await set(own, of('area'), twice('area'));
    expect((await maren.get(`/deals/${held.id}`)).body.values[own.id]).toBe(10);
    await maren.post(`/processes/${process}/draft`, {}, 201);
    await saveAndPublish(maren, process, listing('Pairs', [own.id], { enter: [enough] }) as never);
    expect((await maren.get(`/deals/${held.id}`)).body.values[own.id]).toBe(5);
    await set(number, twice(staff.id), twice(staff.id), 409);
    await set(staff, of(staff.id), of(staff.id), 409);
  });

  it('that would read itself is refused, also through another', async () => {
    const inner = await addField({ name: 'Inner', type: 'calculated', formula: twice('area') });
    const outer = await addField({ name: 'Outer', type: 'calculated', formula: of(inner.id) });
    const body = { formula: twice(outer.id), saw: twice('area') };
    const refused = await maren.send('PUT', `/fields/${inner.id}/formula`, body, 422);
    expect(refused.body.errors).toEqual([
      { pointer: '/formula', detail: 'Outer is worked out from this number, which would read itself.' },
    ]);
    const later = await addField({ name: 'Later', type: 'calculated', formula: of('area') });
    await maren.send('PUT', `/fields/${inner.id}/formula`, { formula: twice(later.id), saw: twice('area') }, 200);
    const process = await publishFirst(maren, listing('Chained', [outer.id]) as never);
    expect((await deal(process, { area: 4 })).values).toMatchObject({ [later.id]: 4, [inner.id]: 8, [outer.id]: 8 });
  });

  it('has examples to be tried on, the newest first', async () => {
    const { body } = await maren.get('/fields/examples?holder=deal&find=dea');
    expect(body.items[0]).toMatchObject({ name: 'Deal', currency: 'GBP', rates: [] });
    expect((await maren.get('/fields/examples?holder=customer&find=handy')).body.items).toMatchObject([
      { name: 'Handy' },
    ]);
  });
});

describe('who may', () => {
  it('is the administrator alone', async () => {
    const tomas = await test.as('tomas');
    await tomas.get('/fields/uses', 403);
    await tomas.get('/fields/examples?holder=deal', 403);
    await tomas.post('/fields/crop/mapping', { from: 'herbs', to: 'tomatoes' }, 403);
  });
});
