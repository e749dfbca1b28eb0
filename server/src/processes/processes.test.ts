import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
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

const tag = (revision: number) => ({ 'If-Match': `"${revision}"` });

describe('a draft', () => {
  it('is saved only from the revision that was seen', async () => {
    const { body: process } = await maren.post(
      '/processes',
      { name: 'Drafts', kind: 'deal', currency: 'GBP', firstStage: 'One' },
      201,
    );
    const path = `/processes/${process.id}/draft`;
    const { body: draft, headers } = await maren.get(path);
    expect(headers.get('ETag')).toBe(`"${draft.revision}"`);
    await maren.send('PUT', path, { document: draft.document }, 428);
    await maren.send('PUT', path, { document: { ...draft.document, purpose: 'First' } }, 200, tag(draft.revision));
    const late = await maren.send(
      'PUT',
      path,
      { document: { ...draft.document, purpose: 'Late' } },
      412,
      tag(draft.revision),
    );
    expect(late.body.current).toEqual({ revision: draft.revision + 1 });
    expect((await maren.get(path)).body.document.purpose).toBe('First');
    await maren.send('DELETE', path, undefined, 409);
  });

  it('may be unfinished, but is not published with a stage name twice or a field that is gone', async () => {
    const { body: process } = await maren.post(
      '/processes',
      { name: 'Faulty', kind: 'deal', currency: 'GBP', firstStage: 'One' },
      201,
    );
    const path = `/processes/${process.id}/draft`;
    const { body: draft } = await maren.get(path);
    const document = {
      ...DOCUMENT,
      name: 'Faulty',
      stages: [stage('a', 'One'), stage('b', 'one', { enter: [filled('x', 'gone')] })],
    };
    const { body: saved } = await maren.send('PUT', path, { document }, 200, tag(draft.revision));
    const { body: preview } = await maren.get(`${path}/preview`);
    expect(preview.problems.map(({ pointer }: { pointer: string }) => pointer)).toEqual([
      '/stages/1/name',
      '/stages/1/enter/0/field',
    ]);
    const { body: problem } = await maren.send(
      'POST',
      `${path}/publish`,
      { deals: 'stay', graceDays: 0, transfers: {} },
      422,
      tag(saved.revision),
    );
    expect(problem.errors).toHaveLength(2);
    expect((await maren.get(`/processes/${process.id}`)).body.live).toBeNull();
  });

  it('names the place of what is wrong in a criterion', async () => {
    const { body } = await maren.post(`/processes/${test.process}/draft`, undefined, 201);
    const bad = structuredClone(body.document);
    bad.stages[1].enter[0].criterion = {
      kind: 'all',
      of: [{ kind: 'at_least', left: { of: 'field', field: 'area' }, right: { of: 'today', plus: 'soon' } }],
    };
    const { body: problem } = await maren.send(
      'PUT',
      `/processes/${test.process}/draft`,
      { document: bad },
      400,
      tag(body.revision),
    );
    expect(problem.errors[0].pointer).toBe('/document/stages/1/enter/0/criterion/of/0/right/plus');
    await maren.send('DELETE', `/processes/${test.process}/draft`, undefined, 204);
  });

  it('stands at most once beside a process', async () => {
    await maren.post(`/processes/${test.process}/draft`, undefined, 201);
    await maren.post(`/processes/${test.process}/draft`, undefined, 409);
    await maren.send('DELETE', `/processes/${test.process}/draft`, undefined, 204);
  });
});

describe('publishing', () => {
  it('makes the version immutable, even against the owner of the tables', async () => {
    await expect(
      asOwner(
        test.database,
        `update process_versions set document = document || '{"purpose": "x"}' where state = 'live'`,
      ),
    ).rejects.toThrow(/cannot be changed/);
  });

  it('says what changes for how many deals, moves them over with grace, and keeps older versions in use while followed', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Moving' });
    const add = async (name: string) => (await maren.post('/deals', { process, name, values: {} }, 201)).body;
    const deals = [await add('One'), await add('Two')];
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    const stricter = {
      ...DOCUMENT,
      name: 'Moving',
      stages: [
        { ...(DOCUMENT.stages[0] as (typeof DOCUMENT.stages)[0]), enter: [filled('new', 'crop')] },
        ...DOCUMENT.stages.slice(1),
      ],
    };
    const { body: draft } = await maren.get(`/processes/${process}/draft`);
    const { body: saved } = await maren.send(
      'PUT',
      `/processes/${process}/draft`,
      { document: stricter },
      200,
      tag(draft.revision),
    );
    const { body: preview } = await maren.get(`/processes/${process}/draft/preview`);
    expect(preview).toMatchObject({
      number: 2,
      openDeals: 2,
      newlyHeld: 2,
      stages: [
        {
          stage: 'brief',
          name: 'Site brief',
          before: { open: 2, held: 0, flagged: 0 },
          after: { open: 2, held: 2, flagged: 0 },
        },
      ],
      turned: [{ stage: 'brief', before: 'clear', after: 'held' }, { after: 'held' }],
      touchesGates: true,
      changes: [{ kind: 'requirement_added', requirement: 'new' }],
    });
    expect(new Set(preview.turned.map(({ deal }: { deal: string }) => deal))).toEqual(
      new Set(deals.map(({ id }) => id)),
    );
    const { body: published } = await maren.send(
      'POST',
      `/processes/${process}/draft/publish`,
      { deals: 'move_over', graceDays: 5, transfers: {} },
      200,
      tag(saved.revision),
    );
    expect(published).toMatchObject({ movedDeals: 2, version: { number: 2, state: 'live', openDeals: 2 } });
    expect((await maren.get(`/deals/${deals[0].id}`)).body).toMatchObject({
      standing: 'flagged',
      findings: [{ kind: 'gate_changed', level: 'flag' }],
      revision: 2,
    });
    test.clock.pass(5 * DAY);
    expect((await maren.get(`/deals/${deals[0].id}`)).body.standing).toBe('held');
    expect(
      (await maren.get(`/processes/${process}`)).body.versions.map(({ state }: { state: string }) => state),
    ).toEqual(['live', 'past']);
  });

  it('leaves deals where they are when asked to, and needs a place for those of a removed stage otherwise', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Removing' });
    await maren.post('/deals', { process, name: 'Deal', values: {} }, 201);
    const shorter = { ...DOCUMENT, name: 'Removing', stages: DOCUMENT.stages.slice(1) };
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    const { body: draft } = await maren.get(`/processes/${process}/draft`);
    const { body: saved } = await maren.send(
      'PUT',
      `/processes/${process}/draft`,
      { document: shorter },
      200,
      tag(draft.revision),
    );
    const { body: problem } = await maren.send(
      'POST',
      `/processes/${process}/draft/publish`,
      { deals: 'move_over', graceDays: 0, transfers: {} },
      422,
      tag(saved.revision),
    );
    expect(problem.errors[0].pointer).toBe('/transfers/brief');
    await maren.send(
      'POST',
      `/processes/${process}/draft/publish`,
      { deals: 'stay', graceDays: 0, transfers: {} },
      200,
      tag(saved.revision),
    );
    expect(
      (await maren.get(`/processes/${process}`)).body.versions.map(({ state }: { state: string }) => state),
    ).toEqual(['live', 'in_use']);
    expect((await maren.get(`/processes/${process}/lanes`)).body.otherStages).toMatchObject([
      { id: 'brief', count: 1 },
    ]);
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(maren, process, shorter, { transfers: { brief: 'survey' } });
    // Each version is followed for a moment at least, and this clock stands still.
    test.clock.pass(1);
    expect((await maren.get(`/processes/${process}/lanes`)).body).toMatchObject({
      otherStages: [],
      stages: [{ id: 'survey', count: 1 }, { count: 0 }],
    });
    expect((await maren.get(`/processes/${process}/movement`)).body.stages).toMatchObject([
      { stage: 'survey', entered: 0 },
      {},
      { stage: 'brief', movedOn: 0 },
    ]);
  });
});

describe('what is not versioned', () => {
  it('house rules count at once and are logged before and after', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Ruled' });
    const { body: deal } = await maren.post('/deals', { process, name: 'Deal', values: {} }, 201);
    test.clock.pass(DAY);
    const rules = { past_target: 'off', idle: 'off', close_date_past: 'off', no_next_action: 'hold', step_late: 'off' };
    await maren.patch(`/processes/${process}`, { houseRules: rules });
    expect((await maren.get(`/deals/${deal.id}`)).body).toMatchObject({
      standing: 'held',
      findings: [{ kind: 'no_next_action', sinceDays: 0 }],
    });
    await maren.patch(`/processes/${process}`, { houseRules: { ...rules, no_next_action: 'off' } });
    expect((await maren.get(`/deals/${deal.id}`)).body.standing).toBe('clear');
    const { rows } = await asOwner(
      test.database,
      `select before, after from process_log where process_id = $1 order by id`,
      [process],
    );
    expect(rows).toMatchObject([
      { before: { houseRules: { no_next_action: 'off' } }, after: { houseRules: { no_next_action: 'hold' } } },
      { after: { houseRules: { no_next_action: 'off' } } },
    ]);
  });

  it('a field keeps its type; a choice that is left out is withdrawn, not lost', async () => {
    const { body: field } = await maren.post(
      '/fields',
      {
        holder: 'deal',
        type: 'choice',
        name: 'Colour',
        choices: [
          { id: 'r', name: 'Red' },
          { id: 'g', name: 'Green' },
        ],
      },
      201,
    );
    await maren.post('/fields', { holder: 'deal', type: 'text', name: 'colour' }, 400);
    await maren.patch(`/fields/${field.id}`, { holder: 'customer', saw: {} }, 400);
    const { body: changed } = await maren.patch(`/fields/${field.id}`, {
      choices: [{ id: 'g', name: 'Grass green' }],
      saw: { choices: field.choices },
    });
    expect(changed.choices).toEqual([
      { id: 'g', name: 'Grass green' },
      { id: 'r', name: 'Red', withdrawn: true },
    ]);
    await maren.patch('/fields/value', { name: 'Worth', saw: { name: 'Value' } }, 409);
  });
});

describe('whoever has a draft open', () => {
  it('hears who else has it, and of which revision it is, until they are not heard of any more', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Open to two' });
    const tell = async (who: Client, expected = 200) =>
      (await who.send('PUT', `/processes/${process}/draft/presence`, undefined, expected)).body;
    await tell(maren, 404);
    const { body: draft } = await maren.post(`/processes/${process}/draft`, undefined, 201);
    const account = {
      name: 'Other Admin',
      email: 'other@test.example',
      role: 'administrator',
      teams: [],
      password: 'a long password',
    };
    await maren.post('/people', account, 201);
    const other = await test.as('other');
    expect(await tell(maren)).toEqual({ others: [], revision: draft.revision });
    expect((await tell(other)).others).toMatchObject([{ name: 'Maren Holt' }]);
    await maren.send('PUT', `/processes/${process}/draft`, { document: draft.document }, 200, tag(draft.revision));
    expect(await tell(other)).toMatchObject({ revision: draft.revision + 1 });
    test.clock.pass(60_000);
    expect((await tell(other)).others).toEqual([]);
    await tell(await test.as('tomas'), 403);
  });

  it('takes an earlier version as the draft, under the name that the process has', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Taken again' });
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(
      maren,
      process,
      { ...DOCUMENT, name: 'Taken again', purpose: 'Another' },
      { note: 'Said better' },
    );
    await maren.post(`/processes/${process}/draft`, { from: 7 }, 404);
    const { body: draft } = await maren.post(`/processes/${process}/draft`, { from: 1 }, 201);
    expect(draft).toMatchObject({ number: 3, document: { name: 'Taken again', purpose: DOCUMENT.purpose } });
    await maren.post(`/processes/${process}/draft`, { from: 1 }, 409);
    const { body: detail } = await maren.get(`/processes/${process}`);
    expect(detail.versions.map(({ number, note }: { number: number; note: string | null }) => [number, note])).toEqual([
      [3, null],
      [2, 'Said better'],
      [1, null],
    ]);
  });
});
