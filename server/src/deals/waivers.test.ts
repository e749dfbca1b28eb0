import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  filled,
  PEOPLE,
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

const document = (name: string) => ({
  ...DOCUMENT,
  name,
  stages: [
    stage('a', 'Brief'),
    stage('b', 'Survey', { enter: [filled('crop', 'crop'), filled('area', 'area')] }),
    stage('c', 'Design'),
  ],
});
const TO_B = { to: 'stage', stage: 'b' };
const REQUEST = { target: TO_B, items: ['crop', 'area'], why: 'They sign today', until: '2026-12-04' };

/** A deal of a process of its own, refused to go on and a waiver asked for. */
async function asked(name: string, more: object = {}) {
  const priya = await test.as('priya');
  const process = await publishFirst(maren, document(name));
  const { body: begun } = await priya.post('/deals', { process, name: 'Deal', values: {} }, 201);
  await priya.post(`/deals/${begun.id}/moves`, { target: TO_B, revision: begun.revision }, 422);
  const { body: deal } = await priya.post(`/deals/${begun.id}/waivers`, { ...REQUEST, ...more }, 201);
  return { process, deal };
}
const decide = async (who: string, deal: { id: string }, body: object, status = 200) =>
  (await (await test.as(who)).send('PUT', `/deals/${deal.id}/waivers/1/decision`, body, status)).body;
const GRANT = { how: 'granted', until: '2026-12-01', word: 'This once' };
const move = async (deal: { id: string; revision: number }, status = 200) =>
  (await (await test.as('priya')).post(`/deals/${deal.id}/moves`, { target: TO_B, revision: deal.revision }, status))
    .body;
const present = async ({ id }: { id: string }) => (await maren.get(`/deals/${id}`)).body;

describe('a waiver', () => {
  it('is asked for, stands on the manager’s day, is granted, used and told', async () => {
    const { deal } = await asked('Granted');
    expect(deal).toMatchObject({ standing: 'held' });
    expect(deal.waivers).toMatchObject([
      { state: 'asked', target: 'Survey', askedBy: { name: 'Priya Nandan' }, may: { decide: false, withdraw: true } },
    ]);
    const tomas = await test.as('tomas');
    const today = (await tomas.get('/today')).body;
    expect(today.items).toMatchObject([
      { group: 'today', item: { kind: 'waiver', items: 2, askedBy: PEOPLE.priya?.id } },
    ]);
    expect((await (await test.as('priya')).get('/today')).body.items[0].item.kind).toBe('held');
    const { body: told } = await tomas.get(`/deals/${deal.id}/waivers/1`);
    expect(told).toMatchObject({
      verdict: [{ state: 'missing' }, { state: 'missing' }],
      before: [],
      often: [{ granted: 0 }, { granted: 0 }],
      waiver: { may: { decide: true, revoke: false } },
    });
    const granted = await decide('tomas', deal, GRANT);
    expect(granted).toMatchObject({
      standing: 'clear',
      waivers: [{ state: 'in_force', decision: { until: '2026-12-01', by: 'Tomas Verhey' } }],
    });
    const { deal: moved, verdict } = await move(granted);
    expect(verdict.items.map(({ state }: { state: string }) => state)).toEqual(['waived', 'waived']);
    expect(moved).toMatchObject({ stage: 'b', standing: 'flagged', findings: [{ kind: 'on_waiver' }] });
    expect((await tomas.get('/today')).body.items).toEqual([]);
    const { body: journal } = await tomas.get(`/deals/${deal.id}/journal`);
    expect(journal.items.slice(0, 3).map(({ kind, text }: { kind: string; text: string }) => [kind, text])).toEqual([
      ['moved', null],
      ['waiver_decided', 'This once'],
      ['waiver_asked', 'They sign today'],
    ]);
    expect((await maren.get(`/deals/${deal.id}/waivers/1`)).body.often).toMatchObject([
      { id: 'crop', granted: 1, deals: 1 },
      { id: 'area', granted: 1, deals: 1 },
    ]);
  });

  it('expires at the end of its day, and what it covered is held again from that instant, though nobody touches the deal', async () => {
    const { deal } = await asked('Expiring');
    const { deal: moved } = await move(await decide('tomas', deal, { how: 'granted', until: '2026-11-25' }));
    const began = test.clock.now();
    test.clock.set(Date.UTC(2026, 10, 25, 23, 59, 59));
    expect((await present(moved)).standing).toBe('flagged');
    test.clock.set(Date.UTC(2026, 10, 26));
    expect(await present(moved)).toMatchObject({ standing: 'held', waivers: [{ state: 'ended' }] });
    test.clock.set(began);
  });

  it('is decided by someone who may, never by who asked, never wider, and once', async () => {
    const { deal, process } = await asked('Deciding');
    await decide('priya', deal, GRANT, 403);
    await decide('bea', deal, GRANT, 404);
    await decide('lena', deal, GRANT, 403);
    expect(await decide('tomas', deal, { ...GRANT, until: '2026-12-05' }, 400)).toMatchObject({
      errors: [{ pointer: '/until' }],
    });
    expect(await decide('tomas', deal, { how: 'refused', word: '  ' }, 400)).toMatchObject({
      errors: [{ pointer: '/word' }],
    });
    await maren.patch(`/processes/${process}`, { waiverRights: { roles: ['administrator'], mostDays: 5 } });
    await decide('tomas', deal, GRANT, 403);
    // Two at once: one decides, the other is told.
    const both = await Promise.all(
      [GRANT, { how: 'refused', word: 'No' }].map((body) =>
        maren.send('PUT', `/deals/${deal.id}/waivers/1/decision`, body, 0),
      ),
    );
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const own = await maren.post('/deals', { process, name: 'Own', values: {} }, 201);
    const far = await maren.post(`/deals/${own.body.id}/waivers`, REQUEST, 400);
    expect(far.body.errors).toMatchObject([{ pointer: '/until', detail: expect.stringContaining('at most 5 days') }]);
    await maren.post(`/deals/${own.body.id}/waivers`, { ...REQUEST, until: '2026-11-28' }, 201);
    expect((await decide('maren', own.body, { how: 'granted', until: '2026-11-28' }, 409)).detail).toContain(
      'Nobody grants what they asked for',
    );
  });

  it('is the same request where it is asked again, is taken back by who asked, and revoked by who granted', async () => {
    const { deal } = await asked('Again', { items: ['crop'] });
    const priya = await test.as('priya');
    const again = await priya.post(`/deals/${deal.id}/waivers`, { ...REQUEST, items: ['crop'] }, 201);
    expect(again.body.waivers).toHaveLength(1);
    await (await test.as('tomas')).send('DELETE', `/deals/${deal.id}/waivers/1`, undefined, 409);
    await priya.send('DELETE', `/deals/${deal.id}/waivers/1`, undefined, 200);
    await decide('tomas', deal, GRANT, 409);
    await priya.post(`/deals/${deal.id}/waivers`, REQUEST, 201);
    const tomas = await test.as('tomas');
    await tomas.send('PUT', `/deals/${deal.id}/waivers/2/decision`, GRANT, 200);
    await priya.post(`/deals/${deal.id}/waivers/2/revoke`, { word: 'x' }, 409);
    const { body } = await tomas.post(`/deals/${deal.id}/waivers/2/revoke`, { word: 'They did not sign' }, 200);
    expect(body.waivers[0]).toMatchObject({ state: 'ended', end: { how: 'revoked', word: 'They did not sign' } });
    await priya.post(`/deals/${deal.id}/waivers`, { ...REQUEST, items: ['nothing'] }, 409);
    await priya.post(`/deals/${deal.id}/waivers`, { ...REQUEST, until: '2026-02-30' }, 400);
    expect((await present(deal)).waivers).toHaveLength(2);
  });

  it('is refused with what is so now where the deal moved, or its requirement was published away meanwhile', async () => {
    const { deal, process } = await asked('Overtaken');
    await maren.post(`/processes/${process}/draft`, {}, 201);
    const other = document('Overtaken');
    await saveAndPublish(maren, process, {
      ...other,
      stages: other.stages.map((one) => (one.id === 'b' ? { ...one, enter: [filled('area', 'area')] } : one)),
    });
    expect((await decide('tomas', deal, GRANT, 409)).detail).toContain('changed by a publish');
    const { deal: second } = await asked('Moved on');
    const priya = await test.as('priya');
    const changes = [
      { field: 'crop', saw: null, value: 'herbs' },
      { field: 'area', saw: null, value: 300 },
    ];
    await move((await priya.patch(`/deals/${second.id}`, { changes })).body);
    expect((await decide('tomas', second, GRANT, 409)).detail).toContain('has moved since');
    expect((await present(second)).waivers).toMatchObject([{ state: 'lapsed' }]);
    test.clock.pass(DAY);
  });
});

it('a waiver ends where a publish changes what it was granted for, though that is met by then', async () => {
  const { process, deal } = await asked('Met by then');
  await decide('tomas', deal, GRANT);
  await move(await present(deal));
  const filledIn = [
    { field: 'crop', saw: null, value: 'herbs' },
    { field: 'area', saw: null, value: 300 },
  ];
  await maren.patch(`/deals/${deal.id}`, { changes: filledIn });
  const before = (await present(deal)).waivers.map(({ state }: { state: string }) => state);
  await maren.post(`/processes/${process}/draft`, undefined, 201);
  const changed = stage('b', 'Survey', { enter: [filled('crop', 'crop', 'flag'), filled('area', 'area', 'flag')] });
  await saveAndPublish(maren, process, {
    ...document('Met by then'),
    stages: [stage('a', 'Brief'), changed, stage('c', 'Design')],
  });
  const after = (await present(deal)).waivers.map(({ state }: { state: string }) => state);
  expect([before, after]).toEqual([['in_force'], ['ended']]);
});

describe('a publish that waives what is new (S25)', () => {
  it('grants each deal that fails only what changed a waiver of it, which ends as any other', async () => {
    const priya = await test.as('priya');
    const bare = { ...DOCUMENT, name: 'In bulk', stages: [stage('a', 'First'), stage('b', 'Second')] };
    const process = await publishFirst(maren, bare);
    const begin = async (values: object) => (await priya.post('/deals', { process, name: 'Deal', values }, 201)).body;
    const [fails, meets] = [await begin({}), await begin({ area: 480 })];
    const asking = { ...bare, stages: [stage('a', 'First', { enter: [filled('n1', 'area')] }), stage('b', 'Second')] };
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(maren, process, asking, { waive: { until: '2026-12-10', why: 'They were here before' } });
    const read = async ({ id }: { id: string }) => (await priya.get(`/deals/${id}`)).body;
    const waived = await read(fails);
    expect(waived.waivers).toMatchObject([
      { state: 'in_force', why: 'They were here before', decision: { by: 'Maren Holt', until: '2026-12-10' } },
    ]);
    expect(waived.findings).toEqual([]);
    expect((await read(meets)).waivers).toEqual([]);
    // What a deal fails since an earlier publish is not what the next one brought it.
    const more = {
      ...asking,
      stages: [stage('a', 'First', { enter: [filled('n1', 'area'), filled('n2', 'crop')] }), stage('b', 'Second')],
    };
    const third = await begin({ crop: 'herbs' });
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(maren, process, more, {});
    const last = {
      ...more,
      stages: [
        stage('a', 'First', { enter: [...(more.stages[0]?.enter ?? []), filled('n3', 'paid')] }),
        stage('b', 'Second'),
      ],
    };
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    await saveAndPublish(maren, process, last, { waive: { until: '2026-12-10', why: 'New' } });
    const asked = (deal: { waivers: { items: { id: string }[] }[] }) =>
      deal.waivers.flatMap(({ items }) => items.map(({ id }) => id));
    expect([asked(await read(meets)), asked(await read(third))]).toEqual([['n3'], ['n3']]);
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    const draft = (await maren.get(`/processes/${process}/draft`)).body;
    const publish = { deals: 'move_over', graceDays: 0, transfers: {}, waive: { until: '2030-01-01', why: 'Long' } };
    const refused = await maren.send('POST', `/processes/${process}/draft/publish`, publish, 422, {
      'If-Match': `"${draft.revision}"`,
    });
    expect(refused.body.errors[0].pointer).toBe('/waive/until');
    test.clock.pass(17 * DAY);
    const after = (await (await test.as('priya')).get(`/deals/${fails.id}`)).body;
    const open = after.findings.map(
      ({ kind, requirement }: { kind: string; requirement: string }) => `${kind} ${requirement}`,
    );
    expect(open.sort()).toEqual(['gate_changed n1', 'gate_changed n2', 'gate_changed n3']);
  });
});
