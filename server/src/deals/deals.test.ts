import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY, MINUTE } from '../testing/movableClock.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { PEOPLE, startTestServer, TEAMS, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let priya: Client;
beforeAll(async () => {
  test = await startTestServer();
  priya = await test.as('priya');
});
afterAll(() => test.stop());

const add = async (values: object = {}, client = priya) =>
  (await client.post('/deals', { process: test.process, name: 'North block', values }, 201)).body;
const fill = async (deal: { id: string }, field: string, value: unknown, saw: unknown = null) =>
  (await priya.patch(`/deals/${deal.id}`, { changes: [{ field, saw, value }] })).body;
const tick = async (deal: { id: string }) =>
  (await priya.post(`/deals/${deal.id}/ticks`, { item: 'called', state: 'ticked' })).body;
const move = (
  deal: { id: string; revision: number },
  stage: string,
  expected = 200,
  more: object = {},
  headers: Record<string, string> = {},
) =>
  priya.post(
    `/deals/${deal.id}/moves`,
    { target: { to: 'stage', stage }, revision: deal.revision, ...more },
    expected,
    headers,
  );
const inSurvey = async () => {
  const deal = await add({ area: 300, crop: 'herbs' });
  return (await move(await tick(deal), 'survey')).body.deal;
};

describe('a deal at a gate', () => {
  it('is held, told exactly why, put right in place, and moves on', async () => {
    const deal = await add({ area: 150 });
    expect(deal).toMatchObject({
      stage: 'brief',
      standing: 'clear',
      names: expect.anything(),
      values: { owner: PEOPLE.priya?.id, team: TEAMS.north },
    });
    const { body: problem } = await move(deal, 'survey', 422);
    expect(problem).toMatchObject({
      status: 422,
      verdict: {
        answer: 'holds',
        items: [
          { id: 'called', state: 'unmet', remedy: { kind: 'tick', item: 'called' } },
          { id: 'r1', state: 'unmet', actual: '150\u00a0m²', remedy: { kind: 'fill', fields: ['area'] } },
          { id: 'r2', state: 'missing', level: 'flag' },
        ],
      },
    });
    const held = (await priya.get(`/deals/${deal.id}`)).body;
    expect(held).toMatchObject({
      standing: 'held',
      attempt: { target: 'stage:survey', by: 'Priya Nandan' },
      revision: 1,
    });
    await tick(deal);
    const right = await fill(deal, 'area', 240, 150);
    expect(right).toMatchObject({ standing: 'clear', attempt: null });
    const { body: moved } = await move(right, 'survey');
    expect(moved).toMatchObject({
      verdict: { answer: 'flags' },
      deal: { stage: 'survey', standing: 'flagged', findings: [{ kind: 'field', requirement: 'r2', level: 'flag' }] },
    });
  });

  it('tells its setting once: not to who knows it, and anew where it is another', async () => {
    const deal = await add();
    expect(deal.setting).toMatchObject({ id: expect.stringMatching(/^[\w-]{22}$/), told: null });
    const { setting } = (await priya.get(`/deals/${deal.id}?known=x`)).body;
    expect(setting).toMatchObject({ id: deal.setting.id, told: { document: { stages: expect.any(Array) } } });
    expect((await priya.get(`/deals/${deal.id}?known=x,${setting.id}`)).body.setting).toEqual({
      ...setting,
      told: null,
    });
    const reasons = [{ id: 'moved', outcome: 'lost', name: 'Moved away', followUp: 'not_asked', withdrawn: 'no' }];
    await (await test.as('maren')).patch(`/processes/${test.process}`, { reasons });
    const after = (await priya.get(`/deals/${deal.id}?known=${setting.id}`)).body.setting;
    expect(after).toMatchObject({ told: { reasons: [{ name: 'Moved away' }] } });
    expect(after.id).not.toBe(setting.id);
    await (await test.as('maren')).patch(`/processes/${test.process}`, { reasons: [] });
  });

  it('counts a refusal once a day, and a preview never', async () => {
    const deal = await add();
    await priya.get(`/deals/${deal.id}/gate?to=stage&stage=survey`);
    await move(deal, 'survey', 422);
    await move(deal, 'survey', 422);
    test.clock.pass(DAY);
    await move(deal, 'survey', 422);
    const { rows } = await asOwner(test.database, `select day::text from refusals where deal_id = $1 order by day`, [
      deal.id,
    ]);
    expect(rows).toHaveLength(2);
    await priya.send('DELETE', `/deals/${deal.id}/attempt`, undefined, 200);
    expect((await priya.get(`/deals/${deal.id}`)).body.standing).toBe('clear');
  });

  it('keeps with a move its whole verdict and all the facts (S23)', async () => {
    const deal = await inSurvey();
    const { rows } = await asOwner(
      test.database,
      `select kind, from_stage, to_stage, stay_days, verdict, snapshot, owner_id, team_id from moves where deal_id = $1 and seq = 2`,
      [deal.id],
    );
    expect(rows[0]).toMatchObject({
      kind: 'forward',
      from_stage: 'brief',
      to_stage: 'survey',
      stay_days: 0,
      owner_id: PEOPLE.priya?.id,
      verdict: { answer: 'passes' },
      snapshot: { ticked: ['called'], values: { area: 300, paid: null } },
    });
  });

  it('closed as won from the middle is asked what the rest asks, then closes and is read-only', async () => {
    const deal = await inSurvey();
    const close = (revision: number, expected: number) =>
      priya.post(`/deals/${deal.id}/moves`, { target: { to: 'outcome', outcome: 'won' }, revision }, expected);
    const { body: problem } = await close(deal.revision, 422);
    expect(problem.verdict).toMatchObject({
      kind: 'won',
      over: ['proposal'],
      items: [
        { id: 'r3', passedOver: true, state: 'missing' },
        { id: 'r4', passedOver: false },
      ],
    });
    await fill(deal, 'value', { minor: 100_00, currency: 'GBP' });
    const paid = await fill(deal, 'paid', true);
    const { body } = await close(paid.revision, 200);
    expect(body.deal).toMatchObject({ status: { state: 'won' }, standing: 'clear', gate: null });
    const { body: refused } = await priya.patch(
      `/deals/${deal.id}`,
      { changes: [{ field: 'area', saw: 300, value: 1 }] },
      409,
    );
    expect(refused.detail).toMatch(/closed/);
    expect(
      (await priya.post(`/deals/${deal.id}/activities`, { kind: 'call', text: 'Thanked them' }, 201)).body.status.state,
    ).toBe('won');
  });

  it('goes back with a reason only, and is taken back by its maker within ten minutes, by a manager later', async () => {
    const deal = await inSurvey();
    expect((await move(deal, 'brief', 422)).body.errors).toEqual([{ pointer: '/text', detail: 'Say why.' }]);
    const { body } = await move(deal, 'brief', 200, { text: 'Wrong site' });
    expect(body.deal).toMatchObject({ stage: 'brief', standing: 'flagged', findings: [{ kind: 'returned' }] });
    test.clock.pass(11 * MINUTE);
    const back = (client: Client, expected: number) =>
      client.post(`/deals/${deal.id}/moves/take-back`, { revision: body.deal.revision, text: 'Slip' }, expected);
    await back(priya, 409);
    const { body: restored } = await back(await test.as('tomas'), 200);
    expect(restored).toMatchObject({
      stage: 'survey',
      standing: 'clear',
      visits: [{ stage: 'brief' }, { stage: 'survey', leftDay: null }],
    });
    expect(restored.path.map(({ kind }: { kind: string }) => kind)).toEqual(['start', 'forward']);
  });

  it('is forced by an administrator only, with a reason', async () => {
    const deal = await add();
    await move(deal, 'proposal', 403, { mode: 'force', text: 'x' });
    const maren = await test.as('maren');
    const force = (more: object, expected: number) =>
      maren.post(
        `/deals/${deal.id}/moves`,
        { target: { to: 'stage', stage: 'proposal' }, revision: deal.revision, mode: 'force', ...more },
        expected,
      );
    await force({}, 422);
    expect(
      (await force({ text: 'The board wants it' }, 200)).body.deal.findings.map(({ kind }: { kind: string }) => kind),
    ).toContain('forced');
  });
});

describe('requests at the same time', () => {
  it('a move on stale data is refused with the present revision, and nothing changes', async () => {
    const deal = await add({ area: 300 });
    await tick(deal);
    expect((await move(deal, 'survey', 409)).body.current).toEqual({ revision: 2 });
    expect((await priya.get(`/deals/${deal.id}`)).body.stage).toBe('brief');
  });

  it('edits of different fields merge; of the same one the later is told, and nothing is half done', async () => {
    const deal = await add();
    await fill(deal, 'area', 300);
    await fill(deal, 'crop', 'herbs');
    const clash = await priya.patch(
      `/deals/${deal.id}`,
      {
        changes: [
          { field: 'paid', saw: null, value: true },
          { field: 'area', saw: null, value: 200 },
        ],
      },
      409,
    );
    expect(clash.body).toMatchObject({ errors: [{ pointer: '/changes/1/value' }], current: { area: 300 } });
    expect((await priya.get(`/deals/${deal.id}`)).body.values).toMatchObject({ area: 300, crop: 'herbs', paid: null });
  });

  it('the same Idempotency-Key gives the first answer, a refusal too; another body is told (S35)', async () => {
    const deal = await add({ area: 300 });
    const key = { 'Idempotency-Key': 'k1' };
    const first = await move(deal, 'survey', 422, {}, key);
    const ticked = await tick(deal);
    expect((await move(deal, 'survey', 422, {}, key)).body).toEqual(first.body);
    await move(ticked, 'survey', 422, {}, key);
    const other = { 'Idempotency-Key': 'k2' };
    const answers = await Promise.all([1, 2, 3].map(() => move(ticked, 'survey', 200, {}, other)));
    expect(new Set(answers.map(({ body }) => body.deal.revision)).size).toBe(1);
    const { rows } = await asOwner(test.database, `select count(*)::int as moves from moves where deal_id = $1`, [
      deal.id,
    ]);
    expect(rows[0].moves).toBe(2);
  });

  it('two moves at once: one is made, the other told that it saw an older deal', async () => {
    const deal = await tick(await add({ area: 300 }));
    const answers = await Promise.all([move(deal, 'survey', 0), move(deal, 'survey', 0)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  });
});

describe('bad input', () => {
  it.each([
    ['a field that is gone', { changes: [{ field: 'gone', saw: null, value: 1 }] }, 400, '/changes/0/field'],
    ['a wrong type', { changes: [{ field: 'area', saw: null, value: 'big' }] }, 400, '/changes/0/value'],
    [
      'an impossible date',
      { changes: [{ field: 'close_date', saw: null, value: '2026-02-30' }] },
      400,
      '/changes/0/value',
    ],
    ['below its bound', { changes: [{ field: 'area', saw: null, value: -1 }] }, 400, '/changes/0/value'],
    ['an unknown choice', { changes: [{ field: 'crop', saw: null, value: 'mango' }] }, 400, '/changes/0/value'],
    [
      'a customer that does not exist',
      { changes: [{ field: 'customer', saw: null, value: '00000000-0000-4000-8000-000000000000' }] },
      400,
      '/changes/0/value',
    ],
    [
      'a character that cannot be stored',
      { changes: [{ field: 'source', saw: null, value: 'a\u0000b' }] },
      400,
      '/changes/0/value',
    ],
    [
      'more than 15 digits',
      { changes: [{ field: 'area', saw: null, value: 0.1234567890123456 }] },
      400,
      '/changes/0/value',
    ],
  ])('%s', async (_what, body, status, pointer) => {
    const deal = await add();
    const answer = await priya.patch(`/deals/${deal.id}`, body, status);
    expect(answer.body.errors[0].pointer).toBe(pointer);
    expect((await priya.get(`/deals/${deal.id}`)).body.revision).toBe(1);
  });

  it('unknown ids are not found, and an unknown stage is pointed at', async () => {
    await priya.get('/deals/00000000-0000-4000-8000-000000000000', 404);
    await priya.get('/deals/7', 400);
    expect((await move(await add(), 'nowhere', 422)).body.errors[0].pointer).toBe('/target/stage');
  });
});

describe('who sees what (S32)', () => {
  it('sellers their teams’ deals, managers their teams, viewers all and change none', async () => {
    const deal = await add();
    const bea = await test.as('bea');
    await bea.get(`/deals/${deal.id}`, 404);
    await bea.patch(`/deals/${deal.id}`, { changes: [] }, 404);
    const listed = async (client: Client) =>
      (await client.get(`/deals?process=${test.process}&find=North&limit=200`)).body.items.length;
    expect(await listed(bea)).toBe(0);
    expect(await listed(priya)).toBeGreaterThan(0);
    expect(await listed(await test.as('lena'))).toBe(await listed(await test.as('tomas')));
    await (await test.as('lena')).patch(`/deals/${deal.id}`, { changes: [] }, 403);
    await (await test.as('tomas')).get(`/deals/${deal.id}`);
    expect((await bea.get(`/processes/${test.process}/compliance`)).body.all.deals).toBe(0);
  });

  it('a duplicate is merged into the deal it repeats: each journal names the other, and the measures one of them', async () => {
    const maren = await test.as('maren');
    const [kept, duplicate] = [await add({ area: 1 }), await add({ area: 1 })];
    const merge = (deal: { id: string }, duplicateOf: string, expected: number, client = maren) =>
      client.post(`/deals/${deal.id}/void`, { text: 'Entered twice', duplicateOf }, expected);
    const refused = async (duplicateOf: string, client = maren) =>
      (await merge(duplicate, duplicateOf, 422, client)).body.errors[0].pointer;
    expect(await refused(duplicate.id)).toBe('/duplicateOf');
    expect(await refused('00000000-0000-4000-8000-000000000000')).toBe('/duplicateOf');
    const before = (await maren.get(`/processes/${test.process}/lanes`)).body.openDeals;
    expect((await merge(duplicate, kept.id, 200)).body.status).toEqual({ state: 'voided' });
    expect((await maren.get(`/processes/${test.process}/lanes`)).body.openDeals).toBe(before - 1);
    const newest = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}/journal`)).body.items[0];
    expect(await newest(duplicate)).toMatchObject({
      kind: 'voided',
      body: { duplicateOf: { deal: kept.id, name: 'North block' } },
      text: 'Entered twice',
    });
    expect(await newest(kept)).toMatchObject({ kind: 'merged', body: { duplicate: { deal: duplicate.id } } });
    expect((await maren.get(`/deals/${kept.id}`)).body).toMatchObject({
      revision: kept.revision,
      status: { state: 'open' },
    });
    expect((await merge(kept, duplicate.id, 422)).body.errors[0].detail).toBe('That deal is voided itself.');
  });

  it('a voided deal leaves the measures', async () => {
    const deal = await inSurvey();
    const entered = async () => (await priya.get(`/processes/${test.process}/movement`)).body.stages[1].entered;
    const before = await entered();
    await (await test.as('tomas')).post(`/deals/${deal.id}/void`, { text: 'A test' });
    expect(await entered()).toBe(before - 1);
  });
});

describe('lists', () => {
  it('give every deal once, page by page', async () => {
    for (let place = 0; place < 5; place++) await add();
    const all = (await priya.get('/deals?limit=200')).body.items.map(({ id }: { id: string }) => id);
    const seen: string[] = [];
    for (let next = ''; ; ) {
      const { body } = await priya.get(`/deals?limit=3${next}`);
      seen.push(...body.items.map(({ id }: { id: string }) => id));
      if (body.next === null) break;
      next = `&after=${body.next}`;
    }
    expect(seen).toEqual(all);
  });

  it('the customer’s fields are facts too: changing them judges its open deals again', async () => {
    const { body: customer } = await priya.post('/customers', { name: 'Fennick Salads', values: {} }, 201);
    const deal = await add({ customer: customer.id });
    await priya.patch(`/customers/${customer.id}`, { name: 'Fennick Salads', values: { credit: true } });
    expect((await priya.get(`/deals/${deal.id}`)).body.partyValues).toEqual({ credit: true });
  });

  it('a contact is added, changed and found; one of a customer that does not exist is refused', async () => {
    const { body: contact } = await priya.post(
      '/contacts',
      { customer: null, name: 'Adel Thornfield', values: {} },
      201,
    );
    const deal = await add({ contact: contact.id });
    const { body: changed } = await priya.patch(`/contacts/${contact.id}`, {
      customer: null,
      name: 'Adel of Thornfield',
      values: {},
    });
    expect(changed).toMatchObject({ id: contact.id, name: 'Adel of Thornfield' });
    expect((await priya.get(`/deals/${deal.id}`)).body.contact).toEqual({ id: contact.id, name: 'Adel of Thornfield' });
    expect((await priya.get('/contacts?find=of%20thorn')).body.items).toHaveLength(1);
    await priya.patch(
      `/contacts/${contact.id}`,
      { customer: '00000000-0000-4000-8000-000000000000', name: 'x', values: {} },
      404,
    );
  });
});

describe('the currency of a deal', () => {
  it('is chosen as it is begun, the process’s where it is not, and that of its value', async () => {
    const maren = await test.as('maren');
    const begin = (more: object, expected = 201) =>
      maren.post('/deals', { process: test.process, name: 'Abroad', values: {}, ...more }, expected);
    expect((await begin({})).body.currency).toBe('GBP');
    expect((await begin({ currency: 'CHF' })).body.currency).toBe('CHF');
    const value = { minor: 500, currency: 'EUR' };
    expect((await begin({ values: { value } })).body.currency).toBe('EUR');
    for (const [currency, values] of [
      ['CHX', {}],
      ['CHF', { value }],
    ] as const)
      expect((await begin({ currency, values }, 400)).body.errors).toMatchObject([{ pointer: '/currency' }]);
  });
});

describe('a closed deal’s follow-up day (S12)', () => {
  it('can be changed and taken away, is journalled, and belongs to closed deals alone', async () => {
    const maren = await test.as('maren');
    const { body: deal } = await maren.post('/deals', { process: test.process, name: 'Later', values: {} }, 201);
    await maren.send('PUT', `/deals/${deal.id}/follow-up`, { day: '2027-01-09' }, 409);
    const { body } = await maren.post(`/deals/${deal.id}/moves`, {
      target: { to: 'outcome', outcome: 'lost' },
      revision: deal.revision,
    });
    expect(body.deal.status).toMatchObject({ followUp: null });
    const { body: after } = await maren.send('PUT', `/deals/${deal.id}/follow-up`, { day: '2027-01-09' }, 200);
    expect(after.status).toMatchObject({ state: 'lost', followUp: '2027-01-09' });
    const { body: journal } = await maren.get(`/deals/${deal.id}/journal`);
    expect(journal.items[0]).toMatchObject({ kind: 'follow_up_changed', body: { before: null, after: '2027-01-09' } });
    expect(
      (await maren.send('PUT', `/deals/${deal.id}/follow-up`, { day: null }, 200)).body.status.followUp,
    ).toBeNull();
    await maren.send('PUT', `/deals/${deal.id}/follow-up`, { day: '9999-12-31' }, 400);
  });
});

describe('days', () => {
  it('lie between 1900 and 2200; a house rule about one at the end answers all the same', async () => {
    const maren = await test.as('maren');
    const { body: deal } = await maren.post('/deals', { process: test.process, name: 'Far', values: {} }, 201);
    const edit = (value: string, expected: number) =>
      maren.patch(`/deals/${deal.id}`, { changes: [{ field: 'close_date', saw: null, value }] }, expected);
    expect((await edit('9999-12-31', 400)).body.errors).toMatchObject([
      { pointer: '/changes/0/value', detail: 'This must lie between 1900-01-01 and 2200-12-31.' },
    ]);
    await edit('0001-01-01', 400);
    const rules = { past_target: 'off', idle: 'off', close_date_past: 'flag', no_next_action: 'off', step_late: 'off' };
    await maren.patch(`/processes/${test.process}`, { houseRules: rules });
    await edit('2200-12-31', 200);
    await maren.patch(`/processes/${test.process}`, { houseRules: { ...rules, close_date_past: 'off' } });
  });
});
