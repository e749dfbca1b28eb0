import { expectedFindings, type ProcessDocument, standsAt, USUAL_OUTCOMES, type VersionId } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { retried } from '../db/transactions.ts';
import { loadDeals } from '../deals/repository/loadDeals.ts';
import { verifyJournal } from '../journal/verify.ts';
import type { WorkInHand } from '../longWork/workKind.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { seededChoice, seededNumbers } from '../testing/seededNumbers.ts';
import { asOwner } from '../testing/testDatabase.ts';
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
import { publishWork } from './publish.ts';

/* A publish is one event of the process: deals follow, and those alone are written that it brings something. */

const next = seededNumbers(23);
const oneOf = seededChoice(next);
const STAGES = ['a', 'b', 'c', 'd'];
const BARE = STAGES.map((id) => stage(id, `Stage ${id}`));
const documentOf = (
  name: string,
  stages: ProcessDocument['stages'] = BARE,
  more: Partial<ProcessDocument> = {},
): ProcessDocument =>
  ({ ...DOCUMENT, name, skips: 'flag', stages, outcomes: USUAL_OUTCOMES.deal, ...more }) as ProcessDocument;
const changed = (place: number, more: object): ProcessDocument['stages'] =>
  BARE.map((one, index) => (index === place ? { ...one, ...more } : one));

let test: TestServer;
let maren: Client;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
});
afterAll(() => test.stop());

const begin = async (process: string, values: object = {}): Promise<string> =>
  (await maren.post('/deals', { process, name: 'Deal', values }, 201)).body.id;
const dealOf = async (id: string) => (await maren.get(`/deals/${id}`)).body;
async function move(id: string, to: string, more: object = {}): Promise<void> {
  const { revision } = await dealOf(id);
  await maren.send(
    'POST',
    `/deals/${id}/moves`,
    { target: { to: 'stage', stage: to }, revision, text: 'x', ...more },
    0,
  );
}
async function publish(process: string, document: ProcessDocument, more: object = {}): Promise<void> {
  await maren.post(`/processes/${process}/draft`, undefined, 201);
  await saveAndPublish(maren, process, document, more);
}
/** What writing a deal leaves on its rows. */
const written = async (process: string) =>
  (
    await asOwner(
      test.database,
      `select d.id, d.xmin, h.xmin as head, (select max(s.xmin::text) from deal_states s where s.deal_id = d.id) as state, h.journal_count
       from deals d join deal_heads h on h.deal_id = d.id where d.process_id = $1 order by d.id`,
      [process],
    )
  ).rows;

describe('a publish', () => {
  it('of words writes no deal; each follows, and counts it as a change', async () => {
    const process = await publishFirst(maren, documentOf('Words'));
    const ids = [await begin(process), await begin(process)];
    const [before, first] = [await written(process), await dealOf(ids[0] ?? '')];
    test.clock.pass(DAY);
    maren = await test.as('maren');
    await publish(process, documentOf('Words', changed(1, { purpose: 'Another word', chance: 77, name: 'Second' })));
    expect(await written(process)).toEqual(before);
    const after = await dealOf(ids[0] ?? '');
    expect(after.version.number).toBe(2);
    expect(after.revision).toBeGreaterThan(first.revision);
  });

  it('of one gate writes those deals alone that have come so far and fail it', async () => {
    const process = await publishFirst(maren, documentOf('One gate'));
    const [early, late, good] = [await begin(process), await begin(process), await begin(process, { area: 5 })];
    for (const id of [late, good]) await move(id, 'b');
    const before = await written(process);
    test.clock.pass(DAY);
    maren = await test.as('maren');
    await publish(process, documentOf('One gate', changed(1, { enter: [filled('r', 'area')] })));
    const after = await written(process);
    const differ = after.filter((row, place) => row.head !== before[place]?.head).map(({ id }) => id);
    expect(differ).toEqual([late]);
    expect((await dealOf(late)).standing).toBe('held');
    expect((await dealOf(early)).standing).toBe('clear');
  });

  it('reaches a deal that was refused where it has not been yet, and one that passed over it', async () => {
    const asks = (level: 'hold' | 'flag') => changed(1, { enter: [filled('r', 'area', level)] });
    const process = await publishFirst(maren, documentOf('Refused', asks('hold')));
    const [refused, over] = [await begin(process), await begin(process)];
    await move(refused, 'b');
    await move(over, 'c');
    expect((await dealOf(refused)).standing).toBe('held');
    const owed = async () =>
      (await dealOf(over)).findings.map(({ key, level }: { key: string; level: string }) => [key, level]);
    expect(await owed()).toContainEqual([expect.stringContaining('r'), 'flag']);
    test.clock.pass(DAY);
    maren = await test.as('maren');
    await publish(process, documentOf('Refused', BARE));
    expect((await dealOf(refused)).standing).toBe('clear');
    expect(await owed()).not.toContainEqual([expect.stringContaining('r'), 'flag']);
  });

  it('of words takes along who stayed behind before', async () => {
    const process = await publishFirst(maren, documentOf('Behind'));
    const id = await begin(process);
    await publish(process, documentOf('Behind', changed(0, { purpose: 'One' })), { deals: 'stay' });
    expect((await dealOf(id)).version.number).toBe(1);
    await publish(process, documentOf('Behind', changed(0, { purpose: 'Two' })));
    expect((await dealOf(id)).version.number).toBe(3);
  });

  it('stands in each deal’s journal in its place, and in a chain of the process', async () => {
    const process = await publishFirst(maren, documentOf('Told'));
    const id = await begin(process);
    const pause = async () => {
      test.clock.pass(DAY);
      maren = await test.as('maren');
    };
    await pause();
    await publish(process, documentOf('Told', changed(0, { purpose: 'One' })));
    await pause();
    await maren.post(`/deals/${id}/activities`, { kind: 'note', text: 'Between' }, 201);
    await pause();
    await publish(process, documentOf('Told', changed(0, { purpose: 'Two' })), { deals: 'stay' });
    const later = await begin(process);
    const told = async (of: string, limit = 50) => (await maren.get(`/deals/${of}/journal?limit=${limit}`)).body;
    const kinds = async (of: string) => (await told(of)).items.map(({ kind }: { kind: string }) => kind);
    expect(await kinds(id)).toEqual(['activity', 'version_changed', 'created']);
    expect(await kinds(later)).toEqual(['created']);
    const first = await told(id, 1);
    expect(first.items.map(({ kind }: { kind: string }) => kind)).toEqual(['activity']);
    const { body: second } = await maren.get(`/deals/${id}/journal?limit=1&after=${first.next}`);
    expect(second.items.map(({ kind, of }: { kind: string; of: string }) => [kind, of])).toEqual([
      ['version_changed', 'process'],
      ['created', 'deal'],
    ]);
    expect((await verifyJournal(test.server.context.dataSource)).broken).toBeNull();
    await asOwner(
      test.database,
      `update process_events set body = jsonb_set(body, '{deals}', '"move_over"') where process_id = $1 and seq = 3`,
      [process],
    );
    expect((await verifyJournal(test.server.context.dataSource)).broken).toEqual({
      what: 'publish changed',
      process,
      event: 3,
    });
    await asOwner(test.database, 'delete from process_events where process_id = $1 and seq = 3', [process]);
    expect((await verifyJournal(test.server.context.dataSource)).broken).toEqual({
      what: 'publish missing',
      process,
      event: 3,
    });
    await asOwner(test.database, 'delete from process_events where process_id = $1', [process]);
  });
});

/** Makes a document live by hand; something may be done before each of its steps, which are told by their number. */
async function publishInHand(
  process: string,
  document: ProcessDocument,
  before: (step: number) => Promise<unknown>,
  more: object = {},
): Promise<() => Promise<number>> {
  await maren.post(`/processes/${process}/draft`, undefined, 201);
  const { body: draft } = await maren.get(`/processes/${process}/draft`);
  const { body: saved } = await maren.send('PUT', `/processes/${process}/draft`, { document }, 200, {
    'If-Match': `"${draft.revision}"`,
  });
  const { dataSource } = test.server.context;
  const now = test.clock.now();
  let steps = 0;
  const work: WorkInHand<never, never> = {
    id: '',
    subject: process as never,
    by: PEOPLE.maren?.id ?? '',
    request: {
      deals: 'move_over',
      graceDays: 0,
      transfers: {},
      version: draft.version as VersionId,
      seen: saved.revision,
      ...more,
    } as never,
    now,
    progress: async () => undefined,
    bind: async () => undefined,
    apart: async (step) => {
      await before(steps++);
      return retried(dataSource, step);
    },
  };
  return () => dataSource.transaction((tx) => publishWork.run(tx, work));
}

const asksForArea = (name: string) => documentOf(name, changed(0, { enter: [filled('r', 'area')] }));
const goes = (at: number) => async (step: number) => {
  if (step === at) throw new Error('The server went');
};
const BEFORE_LIVE = [0, 1, 2, 3];

describe('a server that goes in the middle of a publish', () => {
  it('leaves every deal on the version before until the new one is live', async () => {
    for (const step of BEFORE_LIVE) {
      const process = await publishFirst(maren, documentOf(`Cut off before ${step}`));
      const ids = [await begin(process), await begin(process)];
      const before = await written(process);
      const run = await publishInHand(process, asksForArea(`Cut off before ${step}`), goes(step));
      await expect(run()).rejects.toThrow('The server went');
      expect(await written(process)).toEqual(before);
      const { version, standing } = await dealOf(ids[0] ?? '');
      expect([version.number, standing]).toEqual([1, 'clear']);
      expect(await run()).toBe(2);
      for (const id of ids) expect((await dealOf(id)).standing).toBe('held');
    }
  });

  it('leaves it live after that, deals that are worked on judged by it, and the rest to be gone on with', async () => {
    const process = await publishFirst(maren, documentOf('Cut off'));
    const ids = [await begin(process), await begin(process)];
    const run = await publishInHand(process, asksForArea('Cut off'), goes(BEFORE_LIVE.length));
    await expect(run()).rejects.toThrow('The server went');
    expect((await dealOf(ids[0] ?? '')).version.number).toBe(2);
    const edit = { changes: [{ field: 'crop', saw: null, value: 'herbs' }] };
    expect((await maren.send('PATCH', `/deals/${ids[0]}`, edit, 200)).body.standing).toBe('held');
    expect((await dealOf(ids[1] ?? '')).standing).toBe('clear');
    expect(await run()).toBe(2);
    expect((await dealOf(ids[1] ?? '')).standing).toBe('held');
    const { rows } = await asOwner(
      test.database,
      `select (select count(*)::int from process_events where process_id = $1) as events, (select count(*)::int from judged_deals) as kept`,
      [process],
    );
    expect(rows[0]).toEqual({ events: 2, kept: 0 });
  });

  it('leaves what it had not written to the next publish, where it is never gone on with', async () => {
    const process = await publishFirst(maren, documentOf('Given up'));
    const ids = [await begin(process), await begin(process)];
    const run = await publishInHand(process, asksForArea('Given up'), goes(BEFORE_LIVE.length));
    await expect(run()).rejects.toThrow('The server went');
    await publish(process, { ...asksForArea('Given up'), purpose: 'Words alone' });
    for (const id of ids) expect((await dealOf(id)).standing).toBe('held');
    const { rows } = await asOwner(test.database, 'select count(*)::int as kept from publish_judgings');
    expect(rows[0].kept).toBe(0);
  });

  it('is live right after what was done while it was judged', async () => {
    const process = await publishFirst(maren, documentOf('Meanwhile'));
    const [worked, left] = [await begin(process), await begin(process)];
    const run = await publishInHand(process, asksForArea('Meanwhile'), async (step) => {
      if (step !== BEFORE_LIVE.length - 1) return;
      test.clock.pass(60_000);
      await maren.post(`/deals/${worked}/activities`, { kind: 'note', text: 'Meanwhile' }, 201);
    });
    test.clock.pass(1);
    await run();
    const kinds = (await maren.get(`/deals/${worked}/journal`)).body.items.map(({ kind }: { kind: string }) => kind);
    expect(kinds).toEqual(['version_changed', 'activity', 'created']);
    const [one, other] = [await dealOf(worked), await dealOf(left)];
    expect([one.standing, other.standing]).toEqual(['held', 'held']);
    expect(other.findings[0].openedAt).toBe(one.findings[0].openedAt);
  });

  it('judges once more where a rate was set meanwhile that the version asks for', async () => {
    const worth = {
      kind: 'at_least',
      left: { of: 'field', field: 'value' },
      right: { of: 'value', value: { minor: 1_000_00, currency: 'GBP' } },
    };
    const document = documentOf(
      'Rate',
      changed(0, { enter: [{ id: 'w', kind: 'criterion', level: 'hold', binds: 'must_stay', criterion: worth }] }),
    );
    const process = await publishFirst(maren, documentOf('Rate'));
    const rate = (value: number) =>
      maren.send('PUT', '/rates', { from: 'USD', to: 'GBP', day: '2020-01-01', rate: value }, 200);
    await rate(0.8);
    const id = await begin(process, { value: { minor: 2_000_00, currency: 'USD' } });
    const run = await publishInHand(process, document, async (step) => {
      if (step === 2) await rate(0.1);
    });
    await run();
    expect((await dealOf(id)).standing).toBe('held');
  });
});

describe('what was judged before a version is live', () => {
  it.each([
    ['before it is live', BEFORE_LIVE.length - 1],
    ['right after it is', BEFORE_LIVE.length],
  ])('is judged anew where the deal or its customer was changed %s', async (name, at) => {
    const sections = DOCUMENT.sections.map((section) => ({ ...section, fields: [...section.fields, 'credit'] }));
    const asking = changed(0, { enter: [filled('r', 'credit'), filled('s', 'area')] });
    const process = await publishFirst(maren, documentOf(name));
    const customerWith = async (credit: boolean | null): Promise<string> =>
      (await maren.post('/customers', { name: `${name} ${credit}`, values: { credit } }, 201)).body.id;
    const [gets, loses, has] = [await customerWith(null), await customerWith(true), await customerWith(true)];
    const ids = [
      await begin(process, { customer: gets, area: 3 }),
      await begin(process, { customer: loses, area: 3 }),
      await begin(process, { customer: has }),
      await begin(process, { customer: has }),
    ];
    const run = await publishInHand(process, documentOf(name, asking, { sections }), async (step) => {
      if (step !== at) return;
      await maren.patch(`/customers/${gets}`, { name: `${name} gets`, values: { credit: true } });
      await maren.patch(`/customers/${loses}`, { name: `${name} loses`, values: { credit: null } });
      await maren.patch(`/deals/${ids[2]}`, { changes: [{ field: 'area', saw: null, value: 4 }] });
    });
    await run();
    const standings = await Promise.all(ids.map(async (id) => (await dealOf(id)).standing));
    expect(standings).toEqual(['clear', 'held', 'clear', 'held']);
  });

  it('is judged anew where the clock has changed something since', async () => {
    const process = await publishFirst(maren, documentOf('Turned', changed(0, { idleDays: 3 })));
    await maren.patch(`/processes/${process}`, { houseRules: RULES });
    const [worked, left] = [await begin(process), await begin(process)];
    test.clock.pass(3 * DAY - 60_000);
    maren = await test.as('maren');
    const run = await publishInHand(
      process,
      documentOf('Turned', changed(0, { idleDays: 3, enter: [filled('r', 'area')] })),
      async (step) => {
        if (step !== BEFORE_LIVE.length - 1) return;
        test.clock.pass(DAY);
        maren = await test.as('maren');
        await maren.post(`/deals/${worked}/activities`, { kind: 'note', text: 'Late' }, 201);
      },
    );
    await run();
    const { rows } = await asOwner(
      test.database,
      'select from_at, to_at, standing from deal_states where deal_id = $1 order by from_at',
      [left],
    );
    expect(rows.map(({ standing }) => standing)).toEqual(['clear', 'flagged', 'held']);
    for (const [place, { from_at, to_at }] of rows.entries()) {
      expect(from_at < to_at).toBe(true);
      if (place > 0) expect(from_at).toEqual(rows[place - 1].to_at);
    }
  });
});

const RULES = { past_target: 'off', idle: 'flag', close_date_past: 'off', no_next_action: 'off', step_late: 'off' };

describe('a random book through random publishes', () => {
  const documents: readonly ((name: string) => ProcessDocument)[] = [
    (name) => documentOf(name, changed(0, { enter: [filled('r', 'area')] })),
    (name) => documentOf(name, changed(1, { enter: [filled('s', 'crop')], idleDays: 3 })),
    (name) => documentOf(name, changed(1, { enter: [filled('s', 'crop', 'flag')], leave: [filled('t', 'area')] })),
    (name) =>
      documentOf(
        name,
        changed(2, { checklist: [{ id: 'i', text: 'Called', need: 'must', level: 'hold', afterReturn: 'keep' }] }),
      ),
    (name) => documentOf(name, changed(2, { purpose: 'Only words', chance: 5 })),
    (name) => documentOf(name, changed(3, { enter: [filled('u', 'area')] }), { skips: 'hold' }),
    (name) =>
      documentOf(name, BARE, {
        outcomes: USUAL_OUTCOMES.deal.map((one) => ({ ...one, requirements: [filled(`o-${one.id}`, 'area')] })),
      }),
    (name) => documentOf(name, [...BARE, stage('e', 'Stage e')]),
    (name) => documentOf(name, BARE.slice(1)),
  ];

  it('has the findings of judging each deal afresh, by the version that it follows', async () => {
    const process = await publishFirst(maren, documentOf('Random'));
    await maren.patch(`/processes/${process}`, { houseRules: { ...RULES, past_target: 'flag' } });
    const ids: string[] = [];
    for (let round = 0; round < 14; round++) {
      for (let place = 0; place < 2; place++)
        ids.push(await begin(process, oneOf([{}, { area: 3 }, { crop: 'herbs' }])));
      for (let step = 0; step < 6; step++) await work(oneOf(ids));
      test.clock.pass(next(4) * DAY + 1);
      maren = await test.as('maren');
      const transfers = Object.fromEntries(STAGES.map((id) => [id, 'b']));
      const run = await publishInHand(
        process,
        oneOf([...documents, ...documents.slice(0, 5), ...documents.slice(0, 5)])('Random'),
        () => meanwhile(ids),
        { graceDays: next(3), deals: oneOf(['move_over', 'move_over', 'stay']), transfers },
      );
      await run();
      await compareAll(process);
    }
  });

  /** Now and then somebody works on a deal while it is published, later than it was asked, perhaps on another day. */
  async function meanwhile(ids: readonly string[]): Promise<void> {
    if (next(3) > 0) return;
    test.clock.pass(oneOf([1, 60_000, DAY / 2]));
    maren = await test.as('maren');
    await work(oneOf(ids));
  }

  async function work(id: string): Promise<void> {
    await oneOf([
      () => move(id, oneOf(STAGES), { mode: oneOf(['ask', 'force']) }),
      () => maren.send('POST', `/deals/${id}/activities`, { kind: 'call', text: 'x' }, 0),
      async () => {
        const { values } = await dealOf(id);
        await maren.send(
          'PATCH',
          `/deals/${id}`,
          { changes: [{ field: 'area', saw: values.area ?? null, value: oneOf([null, 4]) }] },
          0,
        );
      },
    ])();
  }

  async function compareAll(process: string): Promise<void> {
    const { dataSource } = test.server.context;
    const { rows } = await asOwner(test.database, `select id from deals where process_id = $1 and status = 'open'`, [
      process,
    ]);
    const deals = await loadDeals(
      dataSource,
      rows.map(({ id }) => id),
    );
    const settings = await loadSettings(
      dataSource,
      deals.map(({ version }) => version),
    );
    for (const deal of deals) {
      const setting = settings.get(deal.version);
      if (!setting) throw new Error('No setting');
      // A deal that left its stay behind follows the new version a moment later.
      const since = Math.max(test.clock.now(), deal.settledAt);
      for (const at of [0, DAY, 4 * DAY].map((later) => since + later)) {
        const inForce = (findings: typeof deal.findings) =>
          findings
            .filter((finding) => standsAt(finding, at))
            .map(({ key, level, kind }) => `${key} ${level} ${kind}`)
            .sort();
        expect(inForce(deal.findings)).toEqual(inForce([...expectedFindings(deal, setting, at).findings]));
      }
    }
  }
});
