import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let other: TestServer;
let maren: Client;
let there: Client;
beforeAll(async () => {
  [test, other] = [await startTestServer(), await startTestServer()];
  maren = await test.as('maren');
  there = await other.as('maren');
  // The other company has neither the field nor anything called like it.
  await asOwner(other.database, `delete from fields where id = 'crop'`);
});
afterAll(async () => {
  await test.stop();
  await other.stop();
});

const fileOf = async (client: Client) => (await client.get(`/processes/${test.process}/versions/1/file`)).body;
const add = (client: Client, name: string, file: unknown, expected = 201) =>
  client.post('/processes', { name, kind: 'deal', currency: 'GBP', from: { as: 'file', file } }, expected);

describe('a process as a file', () => {
  it('is read where it came from without making anything, and says the same', async () => {
    const file = await fileOf(maren);
    expect(file.fields.map(({ id }: { id: string }) => id).sort()).toEqual(['area', 'crop', 'paid']);
    const { body: plan } = await maren.post('/process-files/plan', { file });
    expect(plan.fields.every(({ how }: { how: string }) => how === 'matched')).toBe(true);
    const before = (await maren.get('/fields?limit=200')).body.items.length;
    const { body: process } = await add(maren, 'Read again', file);
    expect((await maren.get('/fields?limit=200')).body.items).toHaveLength(before);
    const { document } = (await maren.get(`/processes/${process.id}/draft`)).body;
    const names = ({ stages }: typeof DOCUMENT) => stages.map(({ name, enter }) => [name, enter.length]);
    expect(names(document)).toEqual(names(DOCUMENT));
    await (await test.as('priya')).get(`/processes/${test.process}/versions/1/file`);
    await (await test.as('tomas')).post('/process-files/plan', { file }, 403);
  });

  it('is read elsewhere: what it needs is told first, then made, and the draft can be published', async () => {
    const file = await fileOf(maren);
    const { body: plan } = await there.post('/process-files/plan', { file });
    expect(plan.fields).toContainEqual({ name: 'Crop', how: 'made', as: 'Crop', added: [] });
    expect((await there.get('/fields?limit=200')).body.items.map(({ id }: { id: string }) => id)).not.toContain('crop');
    const { body: process } = await add(there, 'From elsewhere', file);
    expect((await there.get(`/processes/${process.id}/draft/preview`)).body.problems).toEqual([]);
    expect((await there.get('/fields?limit=200')).body.items.map(({ id }: { id: string }) => id)).toContain('crop');
  });

  it('that is wrong is told with a pointer, and nothing is made', async () => {
    const file = await fileOf(maren);
    const [stage] = file.process.stages;
    const wrong = { ...file, process: { ...file.process, stages: [{ ...stage, chance: 140 }] } };
    const { body } = await there.post('/process-files/plan', { file: wrong }, 400);
    expect(body.errors).toMatchObject([{ pointer: '/file/process/stages/0/chance' }]);
    for (const strange of [null, [], 'x', { format: 2 }, 7])
      await there.post('/process-files/plan', { file: strange }, 400);
    const told = async (process: object, more: object = {}) =>
      (await there.post('/process-files/plan', { file: { ...file, process, ...more } }, 400)).body.errors[0];
    const same = [stage, { ...stage, name: 'Again' }];
    expect((await told({ ...file.process, stages: same })).pointer).toBe('/file/process/stages/1/id');
    expect(await told({ ...file.process, format: 99 })).toMatchObject({
      pointer: '/file/process/format',
      detail: expect.stringContaining('a newer one perhaps'),
    });
    expect((await told(file.process, { colour: 'red' })).pointer).toBe('/file/colour');
    let criterion: object = { kind: 'set', left: { of: 'field', field: 'area' } };
    for (let level = 0; level < 500; level++) criterion = { kind: 'not', of: criterion };
    const enter = [{ id: 'deep', level: 'hold', binds: 'at_move', kind: 'criterion', criterion }];
    expect(await told({ ...file.process, stages: [{ ...stage, enter }] })).toMatchObject({
      pointer: '/file/process/stages/0/enter/0/criterion/of',
      detail: expect.stringContaining('nested more than 100'),
    });
    const field = { id: 'broken', holder: 'deal', type: 'choice', name: 'Broken' };
    const refused = await add(there, 'Not made', { ...file, fields: [...file.fields, field] }, 400);
    expect(refused.body.errors[0].detail).toContain('Broken: Give at least one choice.');
    expect(
      (await there.get('/processes?limit=100')).body.items.map(({ name }: { name: string }) => name),
    ).not.toContain('Not made');
  });
});
