import { USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { seededNumbers } from '../testing/seededNumbers.ts';
import { DOCUMENT, PEOPLE, publishFirst, startTestServer, TEAMS, type TestServer } from '../testing/testServer.ts';

const STAGES = ['brief', 'survey', 'proposal'];
let test: TestServer;
let maren: Client;
let process: string;
let deals: string[];

/** A book of deals that wander up and down an open process; the generator's seed makes it the same each time. */
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  process = await publishFirst(maren, {
    ...DOCUMENT,
    name: 'Wandering',
    skips: 'allow',
    returns: 'allow',
    stages: DOCUMENT.stages.map((stage) => ({ ...stage, enter: [], checklist: [] })),
    outcomes: USUAL_OUTCOMES.deal,
  });
  const next = seededNumbers(5);
  deals = [];
  for (let step = 0; step < 160; step++) {
    maren = await test.as('maren');
    if (step % 12 === 0) deals.push(await begin(step % 24 === 0 ? 'priya' : 'bea'));
    await wander(deals[next(deals.length)] ?? '', next);
    if (next(3) === 0) test.clock.pass(next(5) * DAY);
  }
  maren = await test.as('maren');
});
afterAll(() => test.stop());

async function begin(owner: string): Promise<string> {
  const values = { owner: PEOPLE[owner]?.id };
  return (await maren.post('/deals', { process, name: 'Deal', values }, 201)).body.id;
}

async function wander(id: string, next: (below: number) => number): Promise<void> {
  const { body: deal } = await maren.get(`/deals/${id}`);
  const outcome = next(10);
  const target =
    outcome > 1 ? { to: 'stage', stage: STAGES[next(3)] } : { to: 'outcome', outcome: outcome === 0 ? 'won' : 'lost' };
  await maren.send('POST', `/deals/${id}/moves`, { target, revision: deal.revision, text: 'why' }, 0);
  if (next(6) === 0) {
    const { body: now } = await maren.get(`/deals/${id}`);
    await maren.send('POST', `/deals/${id}/moves/take-back`, { revision: now.revision }, 0);
  }
}

interface Step {
  readonly kind: string;
  readonly seq: number;
  readonly body: { move: string; from: string | null; to: string | null; seq: number };
  readonly happenedAt: string;
}

/** What the journals alone say, counted as a person would count them by hand. */
async function countByHand(chosen: readonly string[]) {
  const counts = STAGES.map((stage) => ({ stage, entered: 0, movedOn: 0, lost: 0, returned: 0 }));
  const of = (stage: string | null) => counts.find((count) => count.stage === stage);
  for (const id of chosen) {
    const { body } = await maren.get(`/deals/${id}/journal?limit=200`);
    const steps: Step[] = [...body.items].reverse();
    const takenBack = new Set(steps.filter(({ kind }) => kind === 'taken_back').map((step) => step.body.seq));
    const first = of('brief');
    if (first) first.entered++;
    for (const { kind, body: move } of steps) {
      if (kind !== 'moved' || takenBack.has(move.seq)) continue;
      const [left, entered] = [of(move.from), of(move.to)];
      if (entered) entered.entered++;
      if (left && ['forward', 'skip', 'won'].includes(move.move)) left.movedOn++;
      if (left && move.move === 'lost') left.lost++;
      if (left && move.move === 'return') left.returned++;
    }
  }
  return counts;
}

/** The stages that a move went past. */
function over({ move, from, to }: Step['body']): readonly string[] {
  if (move === 'won') return STAGES.slice(STAGES.indexOf(from ?? '') + 1);
  return move === 'skip' ? STAGES.slice(STAGES.indexOf(from ?? '') + 1, STAGES.indexOf(to ?? '')) : [];
}

const figures = async (query = '') => (await maren.get(`/processes/${process}/movement${query}`)).body;

describe('movement', () => {
  it('is what the journals say, counted by hand', async () => {
    const { stages, started } = await figures();
    expect(stages).toMatchObject(await countByHand(deals));
    expect(started).toBe(deals.length);
    expect(stages.some(({ returned }: { returned: number }) => returned > 0)).toBe(true);
  });

  it('is what the journals of one team’s deals say, for that team', async () => {
    const theirs = deals.filter((_id, place) => place % 2 === 0);
    const { stages, started } = await figures(`?team=${TEAMS.north}`);
    expect(started).toBe(theirs.length);
    expect(stages).toMatchObject(await countByHand(theirs));
  });

  it('adds up: what was entered has left, or is there (the flow equation of every queue)', async () => {
    const { stages } = await figures();
    for (const { entered, movedOn, lost, returned, openDeals } of stages)
      expect(entered).toBe(movedOn + lost + returned + openDeals);
  });

  it('of two periods that follow each other is that of both together', async () => {
    const whole = await figures();
    const between = new Date(Date.parse(`${whole.to}T00:00:00Z`) - 40 * DAY).toISOString().slice(0, 10);
    const after = new Date(Date.parse(`${between}T00:00:00Z`) + DAY).toISOString().slice(0, 10);
    const [first, second] = [await figures(`?to=${between}`), await figures(`?from=${after}`)];
    const sum = (part: 'entered' | 'movedOn' | 'lost' | 'returned') => (stage: number) =>
      first.stages[stage][part] + second.stages[stage][part];
    for (const part of ['entered', 'movedOn', 'lost', 'returned'] as const)
      expect(STAGES.map((_stage, place) => sum(part)(place))).toEqual(
        whole.stages.map((stage: Record<string, number>) => stage[part]),
      );
    expect(first.won + second.won).toBe(whole.won);
  });

  it('wins and closings make the share, inside its interval', async () => {
    const { won, lost, winShare } = await figures();
    expect(winShare).toMatchObject({ count: won, of: won + lost });
    expect(winShare.low).toBeLessThan(winShare.share);
    expect(winShare.high).toBeGreaterThan(winShare.share);
  });

  it('is what the design check goes by: stages passed over, and what became of those that were in each, by the journals', async () => {
    const counts = STAGES.map((stage) => ({ stage, skipped: 0, closed: 0, won: 0 }));
    for (const id of deals) {
      const { body } = await maren.get(`/deals/${id}/journal?limit=200`);
      const steps: Step[] = [...body.items].reverse();
      const takenBack = new Set(steps.filter(({ kind }) => kind === 'taken_back').map((step) => step.body.seq));
      const moves = steps.filter(({ kind, body: move }) => kind === 'moved' && !takenBack.has(move.seq));
      const been = new Set(['brief', ...moves.map(({ body: move }) => move.to)]);
      const passed = new Set(moves.flatMap(({ body: move }) => over(move)));
      const end = moves.at(-1)?.body.move;
      for (const count of counts) {
        if (passed.has(count.stage)) count.skipped++;
        if (!been.has(count.stage) || (end !== 'won' && end !== 'lost')) continue;
        count.closed++;
        if (end === 'won') count.won++;
      }
    }
    const { stages } = (await maren.get(`/processes/${process}/evidence`)).body;
    const moved = (await figures()).stages;
    for (const count of counts) {
      const { entered, staysEnded, medianDays } = moved.find(({ stage }: { stage: string }) => stage === count.stage);
      expect(stages).toContainEqual({ ...count, entered, staysEnded, medianDays });
    }
    expect(counts.some(({ skipped }) => skipped > 0)).toBe(true);
    await (await test.as('tomas')).get(`/processes/${process}/evidence`, 403);
  });

  it('refuses a period that ends before it begins, and a day that does not exist', async () => {
    const refused = async (query: string) =>
      (await maren.get(`/processes/${process}/movement${query}`, 400)).body.errors[0].pointer;
    expect(await refused('?from=2026-11-02&to=2026-11-01')).toBe('/query/from');
    expect(await refused('?to=2026-11-31')).toBe('/query/to');
  });
});
