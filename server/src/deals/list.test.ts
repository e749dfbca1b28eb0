import { USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  filled,
  PEOPLE,
  publishFirst,
  startTestServer,
  TEAMS,
  type TestServer,
} from '../testing/testServer.ts';

interface Card {
  readonly id: string;
  readonly name: string;
  readonly stage: string;
  readonly owner: string | null;
  readonly team: string | null;
  readonly status: string;
  readonly age: number;
  readonly standing: string;
  readonly closeDate: string | null;
  readonly value: { minor: number } | null;
  readonly findings: number;
  readonly pastTarget: boolean;
}

const OWNERS = ['priya', 'bea', null] as const;
const TEAM_OF = { priya: TEAMS.north, bea: TEAMS.south } as const;
let test: TestServer;
let maren: Client;
let process: string;
let all: readonly Card[];

/** Thirty deals, each a little other than the one before; a few are held, flagged, closed, voided. */
beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  const [first, ...others] = DOCUMENT.stages;
  if (!first) throw new Error('No stage');
  process = await publishFirst(maren, {
    ...DOCUMENT,
    name: 'Listed',
    stages: [
      {
        ...first,
        enter: [filled('b1', 'value'), filled('b2', 'crop', 'flag')],
        target: { days: 8, counting: 'calendar' },
      },
      ...others.map((stage) => ({ ...stage, enter: [] })),
    ],
    outcomes: USUAL_OUTCOMES.deal,
  });
  for (let place = 0; place < 30; place++) {
    maren = await test.as('maren');
    await addOne(place);
    if (place % 3 === 2) test.clock.pass(2 * DAY);
  }
  maren = await test.as('maren');
  all = [
    ...(await pages('')),
    ...(await pages('status=won')),
    ...(await pages('status=lost')),
    ...(await pages('status=voided')),
  ];
});
afterAll(() => test.stop());

async function addOne(place: number): Promise<void> {
  const owner = OWNERS[place % 3] ?? null;
  const values = {
    owner: owner && PEOPLE[owner]?.id,
    team: owner && TEAM_OF[owner],
    value: place % 4 === 0 ? null : { minor: place * 1_000, currency: 'GBP' },
    crop: place % 5 === 0 ? null : 'herbs',
    close_date: place % 2 === 0 ? `2026-12-${String((place % 28) + 1).padStart(2, '0')}` : null,
  };
  const stage = DOCUMENT.stages[place % 3]?.id;
  const name = place % 7 === 0 ? `Roof 100% no ${place}` : `Deal_${place}`;
  const { body: deal } = await maren.post('/deals', { process, name, stage, values }, 201);
  const target = { 10: { to: 'outcome', outcome: 'won' }, 11: { to: 'outcome', outcome: 'lost' } }[place % 15];
  if (target)
    await maren.post(`/deals/${deal.id}/moves`, { target, revision: deal.revision, mode: 'force', text: 'x' });
  if (place % 15 === 12) await maren.post(`/deals/${deal.id}/void`, { text: 'A test' });
}

async function pages(query: string, limit = 7, client = maren): Promise<readonly Card[]> {
  const found: Card[] = [];
  for (let next: string | null = ''; next !== null; ) {
    const after = next ? `&after=${next}` : '';
    const { body } = await client.get(`/deals?process=${process}&limit=${limit}&${query}${after}`);
    found.push(...body.items);
    next = body.next;
  }
  return found;
}

const names = (cards: readonly Card[]) => cards.map(({ name }) => name).sort();
const open = (card: Card) => card.status === 'open';

describe('a list of deals', () => {
  it('has every deal once, whatever the length of its pages, the longest in their stage first', async () => {
    const whole = await pages('', 200);
    expect(whole.length).toBeGreaterThan(20);
    for (const limit of [1, 4, 13])
      expect((await pages('', limit)).map(({ id }) => id)).toEqual(whole.map(({ id }) => id));
    const ages = whole.map(({ age }) => age);
    expect(ages).toEqual(ages.toSorted((a, b) => b - a));
    expect(all).toHaveLength(30);
  });

  it.each<[string, (card: Card) => boolean]>([
    ['stage=survey', ({ stage }) => stage === 'survey'],
    ['standing=held', ({ standing }) => standing === 'held'],
    ['standing=flagged', ({ standing }) => standing === 'flagged'],
    ['standing=clear', ({ standing }) => standing === 'clear'],
    [`owner=${PEOPLE.priya?.id}`, ({ owner }) => owner === 'Priya Nandan'],
    ['owner=none', ({ owner }) => owner === null],
    ['team=none&pastTarget=yes', ({ team, pastTarget }) => team === null && pastTarget],
    [`team=${TEAMS.south}`, ({ team }) => team === 'south'],
    ['pastTarget=yes', ({ pastTarget }) => pastTarget],
    ['closeBefore=2026-12-10', ({ closeDate }) => closeDate !== null && closeDate <= '2026-12-10'],
    ['ageFrom=6', ({ age }) => age >= 6],
    ['ageTo=6', ({ age }) => age <= 6],
    ['ageFrom=4&ageTo=10', ({ age }) => age >= 4 && age <= 10],
    ['find=roof', ({ name }) => name.startsWith('Roof')],
    ['find=100%25', ({ name }) => name.includes('100%')],
    ['find=l_1', ({ name }) => name.toLowerCase().includes('l_1')],
    ['find=%5C', () => false],
    ['standing=held&stage=brief', ({ standing, stage }) => standing === 'held' && stage === 'brief'],
    [
      `standing=held&team=${TEAMS.north}&ageFrom=2`,
      (card) => card.standing === 'held' && card.team === 'north' && card.age >= 2,
    ],
  ])('narrowed by %s has those and no others', async (query, keeps) => {
    const kept = all.filter(open).filter(keeps);
    expect(kept.length > 0).toBe(query !== 'find=%5C');
    expect(names(await pages(query))).toEqual(names(kept));
  });

  it('shows closed and voided deals where they are asked for, with the age they closed at', async () => {
    expect(names(await pages('status=won'))).toEqual(names(all.filter(({ status }) => status === 'won')));
    const [won] = await pages('status=won');
    test.clock.pass(3 * DAY);
    expect((await pages('status=won'))[0]?.age).toBe(won?.age);
    test.clock.pass(-3 * DAY);
  });

  it('is of the teams of who asks, and of their own deals, each once and in the order of all', async () => {
    const bea = await test.as('bea');
    const theirs = (card: Card): boolean => card.team === 'south' || card.owner === 'Bea Ferrant';
    expect(all.filter((card) => card.team === 'south' && card.owner === 'Bea Ferrant')).not.toEqual([]);
    const seen = (await pages('', 200)).filter(theirs).map(({ id }) => id);
    for (const limit of [1, 3, 200]) expect((await pages('', limit, bea)).map(({ id }) => id)).toEqual(seen);
  });
});

describe('lanes, compliance and the list tell the same deals', () => {
  const lanes = async (query = '') => (await maren.get(`/processes/${process}/lanes?${query}`)).body;
  const compliance = async (query = '') => (await maren.get(`/processes/${process}/compliance?${query}`)).body;
  const openDeals = () => all.filter(open);

  it('by stage: how many, held, past target, and worth how much', async () => {
    const { stages, openDeals: count } = await lanes();
    expect(count).toBe(openDeals().length);
    for (const lane of stages) {
      const mine = openDeals().filter(({ stage }) => stage === lane.id);
      expect(lane).toMatchObject({
        count: mine.length,
        held: mine.filter(({ standing }) => standing === 'held').length,
        pastTarget: mine.filter(({ pastTarget }) => pastTarget).length,
        minor: mine.reduce((sum, { value }) => sum + (value?.minor ?? 0), 0),
      });
      expect(lane.ages.reduce((sum: number, one: { count: number }) => sum + one.count, 0)).toBe(mine.length);
    }
  });

  it('by standing, and every finding once', async () => {
    const { all: counts, heldMinor, stages } = await compliance();
    const held = openDeals().filter(({ standing }) => standing === 'held');
    expect(counts).toMatchObject({
      deals: openDeals().length,
      held: held.length,
      flagged: openDeals().filter(({ standing }) => standing === 'flagged').length,
    });
    expect(heldMinor).toBe(held.reduce((sum, { value }) => sum + (value?.minor ?? 0), 0));
    const findings = Object.values<number>(counts.findings).reduce((sum, count) => sum + count, 0);
    expect(findings).toBe(openDeals().reduce((sum, card) => sum + card.findings, 0));
    expect(stages.reduce((sum: number, stage: { deals: number }) => sum + stage.deals, 0)).toBe(counts.deals);
  });

  it('of each team together with those of none are all', async () => {
    const [whole, ...parts] = await Promise.all([
      compliance(),
      compliance(`team=${TEAMS.north}`),
      compliance(`team=${TEAMS.south}`),
    ]);
    const inTeams = parts.reduce((sum, { all: counts }) => sum + counts.deals, 0);
    expect(inTeams).toBe(openDeals().filter(({ team }) => team !== null).length);
    expect(whole.all.deals).toBe(openDeals().length);
  });

  it('narrowed alike', async () => {
    const query = `owner=${PEOPLE.priya?.id}&standing=held`;
    expect((await lanes(query)).openDeals).toBe((await pages(query)).length);
  });
});
