import { type Deal, expectedFindings, standingAt, standsAt, USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadDeals } from '../deals/repository/loadDeals.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { seededNumbers } from '../testing/seededNumbers.ts';
import { asOwner } from '../testing/testDatabase.ts';
import { DOCUMENT, filled, publishFirst, startTestServer, type TestServer } from '../testing/testServer.ts';

let test: TestServer;
let maren: Client;
let process: string;
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  const stages = DOCUMENT.stages.map((stage) =>
    stage.id === 'brief'
      ? { ...stage, enter: [filled('b1', 'value'), filled('b2', 'crop', 'flag')], idleDays: 3 }
      : stage,
  );
  process = await publishFirst(maren, { ...DOCUMENT, name: 'Watched', stages, skips: 'flag' });
  await maren.patch(`/processes/${process}`, {
    houseRules: { past_target: 'flag', idle: 'hold', close_date_past: 'flag', no_next_action: 'off', step_late: 'off' },
  });
});
afterAll(() => test.stop());

async function openDeals(): Promise<readonly Deal[]> {
  const { rows } = await asOwner(test.database, `select id from deals where process_id = $1 and status = 'open'`, [
    process,
  ]);
  return loadDeals(
    test.server.context.dataSource,
    rows.map(({ id }) => id),
  );
}

const inForce = (deal: Deal, at: number, findings = deal.findings) =>
  findings
    .filter((finding) => standsAt(finding, at))
    .map(({ key, level }) => `${key} ${level}`)
    .sort();

async function randomCommand(next: (below: number) => number, deals: readonly { id: string }[]): Promise<void> {
  const id = deals[next(deals.length)]?.id ?? '';
  const { body: deal } = await maren.get(`/deals/${id}`);
  const edit = (field: string, value: unknown) =>
    maren.send('PATCH', `/deals/${id}`, { changes: [{ field, saw: deal.values[field] ?? null, value }] }, 0);
  const stage = ['brief', 'survey', 'proposal'][next(3)];
  switch (next(9)) {
    case 0:
      return void (await edit('area', [null, 150, 300][next(3)]));
    case 1:
      return void (await edit('crop', [null, 'herbs'][next(2)]));
    case 2:
      return void (await edit('value', [null, { minor: 100, currency: 'GBP' }][next(2)]));
    case 3:
      return void (await edit('close_date', [null, '2026-11-26', '2026-12-24'][next(3)]));
    case 4:
      return void (await maren.send(
        'POST',
        `/deals/${id}/ticks`,
        { item: 'called', state: ['ticked', 'unticked'][next(2)] },
        0,
      ));
    case 5:
      return void (await maren.send('POST', `/deals/${id}/activities`, { kind: 'call', text: 'x' }, 0));
    case 6:
      return void (await maren.send(
        'POST',
        `/deals/${id}/moves`,
        { target: { to: 'stage', stage }, revision: deal.revision, text: 'why', mode: ['ask', 'force'][next(2)] },
        0,
      ));
    case 7:
      return void (
        deal.path.length > 1 &&
        (await maren.send('POST', `/deals/${id}/moves/take-back`, { revision: deal.revision }, 0))
      );
    default:
      test.clock.pass(next(4) * DAY);
  }
}

describe('what is kept', () => {
  it('is what judging the whole book again finds, after any commands and as the clock goes on', async () => {
    const next = seededNumbers(7);
    const deals = await Promise.all(
      Array.from(
        { length: 6 },
        async (_none, place) => (await maren.post('/deals', { process, name: `Deal ${place}`, values: {} }, 201)).body,
      ),
    );
    for (let commands = 0; commands < 120; commands++) await randomCommand(next, deals);
    const book = await openDeals();
    const settings = await loadSettings(
      test.server.context.dataSource,
      book.map(({ version }) => version),
    );
    for (const days of [0, 1, 5, 30]) {
      const at = test.clock.now() + days * DAY;
      for (const deal of book) {
        const setting = settings.get(deal.version);
        if (setting)
          expect(inForce(deal, at)).toEqual(inForce(deal, at, [...expectedFindings(deal, setting, at).findings]));
      }
    }
  });

  it('adds up: the summary counts every open deal once by its standing, and the list has every finding', async () => {
    const now = test.clock.now();
    const book = await openDeals();
    const { body: summary } = await maren.get(`/processes/${process}/compliance`);
    const count = (standing: string) => book.filter((deal) => standingAt(deal.findings, now) === standing).length;
    expect(summary.all).toMatchObject({
      deals: book.length,
      clear: count('clear'),
      flagged: count('flagged'),
      held: count('held'),
    });
    expect(summary.stages.reduce((sum: number, { deals }: { deals: number }) => sum + deals, 0)).toBe(book.length);
    const rows: { finding: { level: string; since: string } }[] = [];
    for (let next = ''; ; ) {
      const { body } = await maren.get(`/processes/${process}/findings?limit=4${next}`);
      rows.push(...body.items);
      if (body.next === null) break;
      next = `&after=${body.next}`;
    }
    expect(rows).toHaveLength(book.reduce((sum, deal) => sum + inForce(deal, now).length, 0));
    const order = rows.map(({ finding }) => `${finding.level === 'hold' ? 0 : 1} ${finding.since}`);
    expect(order).toEqual(order.toSorted());
  });

  it('changes by exactly one finding when one thing is put right', async () => {
    const { body: deal } = await maren.post(
      '/deals',
      { process, name: 'One', values: { value: { minor: 5, currency: 'GBP' }, crop: null } },
      201,
    );
    expect(deal).toMatchObject({
      standing: 'flagged',
      findings: [{ requirement: 'b2', actual: 'not filled', sinceDays: 0 }],
    });
    const { body: before } = await maren.get(`/processes/${process}/compliance`);
    await maren.patch(`/deals/${deal.id}`, { changes: [{ field: 'crop', saw: null, value: 'herbs' }] });
    const { body: after } = await maren.get(`/processes/${process}/compliance`);
    expect([
      after.all.clear - before.all.clear,
      after.all.flagged - before.all.flagged,
      (before.all.findings.field ?? 0) - (after.all.findings.field ?? 0),
    ]).toEqual([1, -1, 1]);
  });
});

describe('movement', () => {
  it('counts stays that ended by how they ended, taken-back moves left out', async () => {
    maren = await test.as('maren');
    const fresh = await publishFirst(maren, {
      ...DOCUMENT,
      name: 'Counted',
      stages: DOCUMENT.stages.map((stage) => ({ ...stage, enter: [], checklist: [] })),
      outcomes: USUAL_OUTCOMES.deal,
    });
    const begin = async () => (await maren.post('/deals', { process: fresh, name: 'Deal', values: {} }, 201)).body;
    const move = async (deal: { id: string }, target: object, more: object = {}) => {
      const { body } = await maren.get(`/deals/${deal.id}`);
      return (await maren.post(`/deals/${deal.id}/moves`, { target, revision: body.revision, ...more })).body.deal;
    };
    const [a, b, c] = [await begin(), await begin(), await begin()];
    test.clock.pass(11 * DAY);
    for (const deal of [a, b]) await move(deal, { to: 'stage', stage: 'survey' });
    await move(c, { to: 'outcome', outcome: 'lost' });
    test.clock.pass(2 * DAY);
    await move(a, { to: 'stage', stage: 'brief' }, { text: 'back' });
    const slip = await move(b, { to: 'stage', stage: 'proposal' });
    await maren.post(`/deals/${b.id}/moves/take-back`, { revision: slip.revision });
    const { body } = await maren.get(`/processes/${fresh}/movement`);
    expect(body).toMatchObject({
      started: 3,
      won: 0,
      lost: 1,
      stages: [
        {
          stage: 'brief',
          entered: 4,
          movedOn: 2,
          lost: 1,
          returned: 0,
          medianDays: 11,
          openDeals: 1,
          openPastTarget: 0,
        },
        { stage: 'survey', entered: 2, movedOn: 0, returned: 1, medianDays: 2, openDeals: 1 },
        { stage: 'proposal', entered: 0, staysEnded: 0, movedOnShare: null, medianDays: null },
      ],
    });
  });
});
