import type { DealId, ProcessId } from '@ladder/core';
import {
  convert,
  type Deal,
  isMoney,
  isPastTarget,
  localDay,
  presentVisit,
  type Standing,
  standingAt,
  standsAt,
} from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { maySee, seesAll } from '../access/dealAccess.ts';
import { openDealsOf } from '../access/repository.ts';
import { findingKeys } from '../compliance/repository.ts';
import { at, sql } from '../db/sql.ts';
import type { Person } from '../session/person.ts';
import { latestRates } from '../setting/repository/rates.ts';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import { seededChoice, seededNumbers } from '../testing/seededNumbers.ts';
import { DOCUMENT, PEOPLE, saveAndPublish, startTestServer, TEAMS, type TestServer } from '../testing/testServer.ts';
import { findLaneCards } from './repository/lanes.ts';
import { loadDeals } from './repository/loadDeals.ts';
import { type DealFilter, openBook, SO_THEN_PARTS } from './repository/openBook.ts';
import { countOpen, sumOpen } from './repository/openSums.ts';

/*
 * What core decides of a deal and what PostgreSQL decides of many at once is one answer: a book of deals that random
 * people worked on random days is read both ways, now and on days to come.
 */

const ZONE = 'Europe/London';
const DEALS = 40;
const STEPS = 160;
const next = seededNumbers(11);
const oneOf = seededChoice(next);

let test: TestServer;
let maren: Client;
const ids: DealId[] = [];
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  await maren.send('PUT', '/rates', { from: 'EUR', to: 'GBP', day: '2026-11-01', rate: 0.87 }, 200);
  await maren.patch(`/processes/${test.process}`, {
    houseRules: { past_target: 'hold', idle: 'flag', close_date_past: 'flag', no_next_action: 'off', step_late: 'off' },
  });
  await maren.post(`/processes/${test.process}/draft`, undefined, 201);
  const stages = DOCUMENT.stages.map((one) => (one.id === 'survey' ? { ...one, target: null } : one));
  await saveAndPublish(maren, test.process, { ...DOCUMENT, stages });
  for (let place = 0; place < DEALS; place++) ids.push((await begin()) as DealId);
  for (let step = 0; step < STEPS; step++) {
    await work(oneOf(ids));
    if (step % 20 === 0) days.push({ at: test.clock.now(), cards: await cards(), undone: new Set() });
  }
});
afterAll(() => test.stop());

async function begin(): Promise<string> {
  const owner = oneOf(Object.values(PEOPLE)).id;
  const values = {
    owner,
    team: oneOf([null, TEAMS.north, TEAMS.south]),
    value: oneOf([null, { minor: 1 + next(99_999), currency: oneOf(['GBP', 'EUR', 'JPY']) }]),
    close_date: oneOf([null, '2026-11-26', '2026-12-20']),
  };
  const { body } = await maren.post('/deals', { process: test.process, name: 'Deal', values }, 201);
  return body.id;
}

/** Something that may be done to a deal, done; what is refused is part of its history too. */
async function work(id: string): Promise<void> {
  test.clock.pass(next(DAY / 2));
  maren = await test.as('maren');
  const { body: deal } = await maren.get(`/deals/${id}`);
  const edit = (field: string, value: unknown) => ({ changes: [{ field, saw: deal.values[field] ?? null, value }] });
  const stage = oneOf(['brief', 'survey', 'proposal']);
  const target = oneOf([
    { to: 'stage', stage },
    { to: 'outcome', outcome: 'lost' },
    { to: 'stage', stage },
  ]);
  const answer = await oneOf([
    () => maren.send('PATCH', `/deals/${id}`, edit('area', 100 + next(400)), 0),
    () => maren.send('PATCH', `/deals/${id}`, edit('crop', oneOf([null, 'herbs'])), 0),
    () => maren.post(`/deals/${id}/ticks`, { item: 'called', state: oneOf(['ticked', 'unticked']) }, 0),
    () => maren.post(`/deals/${id}/activities`, { kind: 'call', text: 'Rang.' }, 0),
    () => maren.post(`/deals/${id}/moves`, { target, revision: deal.revision, mode: 'force', text: 'So it was' }, 0),
    () => maren.post(`/deals/${id}/moves`, { target, revision: deal.revision, text: 'Asked' }, 0),
    () => maren.send('DELETE', `/deals/${id}/attempt`, undefined, 0),
    () => maren.post(`/deals/${id}/moves/take-back`, { revision: deal.revision, text: 'So it was not' }, 0),
  ])();
  if (answer.body.path?.length < deal.path.length) for (const day of days) day.undone.add(id);
  if (answer.status >= 300) return;
  const changed = answer.body.deal ?? answer.body;
  answers.push([changed, (await maren.get(`/deals/${id}?known=${changed.setting.id}`)).body]);
}

/** What the list said on days that have gone by, and the deals of which a move was taken back after that: it is gone from then too. */
const days: { readonly at: number; readonly cards: readonly Card[]; readonly undone: Set<string> }[] = [];

it('the states of a day that has gone by say what was said on it', async () => {
  expect(days.length).toBeGreaterThan(5);
  for (const { at: instant, cards: said, undone } of days) {
    const rows = await sql<Pick<Card, 'id' | 'stage' | 'standing' | 'findings'>>(
      test.server.context.dataSource,
      `select d.deal_id as id, d.stage_id as stage, d.standing, d.findings from deal_states d
       where d.process_id = :process and d.status = 'open' and (${SO_THEN_PARTS.join(' or ')}) order by d.deal_id`,
      { process: test.process, now: at(instant) },
    );
    const then = said.map(({ id, stage, standing, findings }) => ({ id, stage, standing, findings }));
    const kept = ({ id }: { id: string }): boolean => !undone.has(id);
    expect(rows.filter(kept)).toEqual(then.filter(kept).sort((a, b) => (a.id < b.id ? -1 : 1)));
  }
});

/** What commands answered, and what was read right after. */
const answers: [unknown, unknown][] = [];

it('what a command answers, made from what it wrote, is what is read after it', () => {
  expect(answers.length).toBeGreaterThan(STEPS / 3);
  for (const [told, read] of answers) expect(told).toEqual(read);
});

const book = (): Promise<readonly Deal[]> => loadDeals(test.server.context.dataSource, ids);
const openDeals = async () => (await book()).filter(({ status }) => status.state === 'open');

interface Card {
  readonly id: string;
  readonly stage: string;
  readonly standing: Standing;
  readonly findings: number;
  readonly age: number;
  readonly pastTarget: boolean;
}
const cards = async (query = '', client = maren): Promise<readonly Card[]> =>
  (await client.get(`/deals?process=${test.process}&limit=200${query}`)).body.items;

describe.each([0, 3, 11, 40])('%i days later', (days) => {
  beforeAll(async () => {
    test.clock.pass(days * DAY);
    maren = await test.as('maren');
  });

  it('the standing of each deal is the one that core tells, and lists are filtered by it', async () => {
    const now = test.clock.now();
    const deals = await openDeals();
    const told = new Map((await cards()).map(({ id, standing, findings }) => [id, [standing, findings]]));
    const expected = deals.map(({ id, findings }) => [
      id,
      [standingAt(findings, now), findings.filter((finding) => standsAt(finding, now)).length],
    ]);
    expect([...told].sort()).toEqual(expected.sort());
    for (const standing of ['held', 'flagged', 'clear'])
      expect((await cards(`&standing=${standing}`)).map(({ id }) => id).sort()).toEqual(
        deals.filter(({ findings }) => standingAt(findings, now) === standing).map(({ id }) => id),
      );
  });

  it('who is past a target, and how old each deal is, is told alike by lists, lanes and core', async () => {
    const today = localDay(test.clock.now(), ZONE);
    const past = (await openDeals()).filter((deal) => isPastTarget(presentVisit(deal).moveOnDay, today));
    expect(
      (await cards())
        .filter(({ pastTarget }) => pastTarget)
        .map(({ id }) => id)
        .sort(),
    ).toEqual(past.map(({ id }) => id));
    const { body: lanes } = await maren.get(`/processes/${test.process}/lanes`);
    expect(lanes.pastTarget).toBe(past.length);
    const ages = (await cards()).map(({ age }) => age).sort();
    const laneAges = lanes.stages.flatMap(({ ages: counts }: { ages: { age: number; count: number }[] }) =>
      counts.flatMap(({ age, count }) => Array.from({ length: count }, () => age)),
    );
    expect(laneAges.sort()).toEqual(ages);
  });

  it('everyone sees just the deals that core lets them see', async () => {
    const deals = await openDeals();
    for (const [name, person] of Object.entries(PEOPLE)) {
      const seen = await cards('', await test.as(name));
      expect(seen.map(({ id }) => id).sort()).toEqual(deals.filter((deal) => maySee(person, deal)).map(({ id }) => id));
    }
  });

  it('few deals are looked up and many gone through with one answer, whoever asks and however narrowed', async () => {
    const { dataSource } = test.server.context;
    const stages = [...new Set((await openDeals()).map((deal) => presentVisit(deal).stage))];
    const read = async (person: Person, filter: DealFilter, few: number | undefined) => {
      const open = await openBook(dataSource, person, test.process as ProcessId, filter, test.clock.now(), few);
      const [today, pounds] = ['2026-11-28', 'GBP'];
      const [groups, compliance, whole, found] = [
        await sumOpen(dataSource, open, { by: ['stage', 'age', 'standing'], measures: ['past'] }, today, pounds),
        await sumOpen(dataSource, open, { by: ['stage', 'standing', 'kinds'] }, today, pounds),
        await countOpen(dataSource, open, { by: [] }, today),
        await findingKeys(dataSource.manager, open, { limit: 500, cursor: null }),
      ];
      const foremost = (await dataSource.transaction((tx) => findLaneCards(tx, open, stages, 3))).map(({ id }) => id);
      const sorted = (rows: readonly object[]) => rows.map((row) => JSON.stringify(row)).sort();
      return {
        few: open.few,
        told: { groups: sorted(groups), compliance: sorted(compliance), whole, found, foremost },
      };
    };
    const held = { standing: 'held', pastTargetOn: '2026-12-01' } as const;
    const filters = [{}, { team: 'none' }, { team: TEAMS.north, ...held }, { owner: PEOPLE.bea?.id ?? '' }, held];
    for (const person of Object.values(PEOPLE))
      for (const filter of filters) {
        const [looked, gone] = [await read(person, filter, undefined), await read(person, filter, -1)];
        expect(looked.told).toEqual(gone.told);
        expect(gone.few).toBe(false);
        expect(looked.few).toBe(!seesAll(person) || 'team' in filter || 'owner' in filter);
      }
  });

  it('a process has as many open deals as there are', async () => {
    const [counted] = await sql(test.server.context.dataSource, `select ${openDealsOf(':process')} as deals`, {
      process: test.process,
    });
    expect(counted).toEqual({ deals: (await openDeals()).length });
  });

  it('a book is worth the sum of its deals, each converted as a gate would', async () => {
    const rateOf = await latestRates(test.server.context.dataSource);
    const worth = (await openDeals()).flatMap(({ values: { value } }) =>
      isMoney(value) ? [convert(value, 'GBP', rateOf)?.minor ?? null] : [],
    );
    const { body: lanes } = await maren.get(`/processes/${test.process}/lanes`);
    expect(lanes.minor).toBe(worth.reduce<number>((sum, minor) => sum + (minor ?? 0), 0));
    expect(lanes.withoutRate).toBe(worth.filter((minor) => minor === null).length);
    expect(lanes.withoutRate).toBeGreaterThan(0);
  });
});
