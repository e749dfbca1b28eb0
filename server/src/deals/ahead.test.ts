import type { Criterion, ProcessDocument, Requirement } from '@ladder/core';
import { guided, result } from '@ladder/core/testing/steps.ts';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import { DAY } from '../testing/movableClock.ts';
import {
  DOCUMENT,
  filled,
  publishFirst,
  saveAndPublish,
  stage,
  startTestServer,
  TEAMS,
  type TestServer,
} from '../testing/testServer.ts';

/*
 * Cards tell what lies before their deals, by what was told before where nothing has changed: whatever is done, by whichever
 * way, they say what the deal's own page says, which keeps nothing.
 */

let test: TestServer;
let maren: Client;
let process: string;
let deal: string;
let contactField: string;

const asks = (id: string, criterion: Criterion): Requirement => ({
  id,
  level: 'hold',
  binds: 'at_move',
  kind: 'criterion',
  criterion,
});
const isTrue = (field: string): Criterion => ({
  kind: 'equals',
  left: { of: 'field', field },
  right: { of: 'value', value: true },
});
const document = (survey: readonly Requirement[]): ProcessDocument => ({
  ...DOCUMENT,
  name: 'Ahead',
  sections: [...DOCUMENT.sections, { id: 'own', name: 'Own', fields: ['contact'] }],
  stages: [
    stage('brief', 'Brief', {
      checklist: [{ id: 'called', text: 'Called', need: 'must', level: 'hold', afterReturn: 'keep' }],
      steps: [
        guided('ask', {
          name: 'Ask',
          due: { days: 3, counting: 'working', after: 'arrival' },
          results: [result('yes')],
        }),
      ],
    }),
    stage('survey', 'Survey', { enter: survey }),
  ],
});
const ASKED = () => [
  filled('crop', 'crop'),
  asks('credit', isTrue('credit')),
  asks('signs', isTrue(contactField)),
  asks('worth', {
    kind: 'at_least',
    left: { of: 'field', field: 'value' },
    right: { of: 'value', value: { minor: 100_00, currency: 'GBP' } },
  }),
  asks('ripe', {
    kind: 'more',
    left: { of: 'journey', fact: 'days_in_stage' },
    right: { of: 'value', value: 2 },
  }),
];

beforeAll(async () => {
  test = await startTestServer();
  maren = await test.as('maren');
  contactField = String(
    (await maren.post('/fields', { holder: 'contact', type: 'yes_no', name: 'Signs' }, 201)).body.id,
  );
  process = await publishFirst(maren, document(ASKED()));
  const { body } = await maren.post(
    '/deals',
    { process, name: 'Deal', values: { team: TEAMS.north, value: { minor: 1_000_00, currency: 'SEK' } } },
    201,
  );
  deal = body.id;
});
afterAll(() => test.stop());

const page = async () => (await maren.get(`/deals/${deal}`)).body;
/** What the card says, and what the page says. */
async function both() {
  const [{ body: lanes }, { body: list }, { gate, stepsAtHand }] = await Promise.all([
    maren.get(`/processes/${process}/lanes`),
    maren.get(`/deals?process=${process}`),
    page(),
  ]);
  const said = ({ missing, step }: { missing: number; step: { name: string; dueDay: string } | null }) => ({
    missing,
    step: step && { name: step.name, dueDay: step.dueDay },
  });
  const inTheWay = (item: { level: string; state: string }) =>
    item.level === 'hold' && ['unmet', 'missing'].includes(item.state);
  const [step] = stepsAtHand;
  return {
    lanes: said(lanes.stages.flatMap(({ cards }: { cards: unknown[] }) => cards)[0]),
    list: said(list.items[0]),
    page: {
      missing: gate.items.filter(inTheWay).length,
      step: step ? { name: step.name, dueDay: step.dueDay } : null,
    },
  };
}
const edit = async (field: string, value: unknown) =>
  maren.patch(`/deals/${deal}`, { changes: [{ field, saw: (await page()).values[field] ?? null, value }] });
const republish = async (survey: readonly Requirement[]) => {
  await maren.post(`/processes/${process}/draft`, {}, 201);
  await saveAndPublish(maren, process, document(survey));
};

it('cards say what is still asked, and the step at hand, after whatever was done', async () => {
  const { body: customer } = await maren.post('/customers', { name: 'Fennick Salads', values: {} }, 201);
  const { body: contact } = await maren.post('/contacts', { customer: customer.id, name: 'Ann', values: {} }, 201);
  const waive = async () => {
    const { revision } = await page();
    const target = { to: 'stage', stage: 'survey' };
    await maren.post(`/deals/${deal}/moves`, { target, revision }, 422);
    const asked = { target, items: ['worth'], why: 'They sign today', until: '2026-12-04' };
    await maren.post(`/deals/${deal}/waivers`, asked, 201);
    const tomas = await test.as('tomas');
    const granted = { how: 'granted', until: '2026-12-01', word: 'This once' };
    await tomas.send('PUT', `/deals/${deal}/waivers/1/decision`, granted, 200);
  };
  const done: readonly [string, number, () => Promise<unknown>][] = [
    ['it is begun', 6, async () => undefined],
    ['a field is filled', 5, () => edit('crop', 'herbs')],
    ['an item is ticked', 4, () => maren.post(`/deals/${deal}/ticks`, { item: 'called', state: 'ticked' })],
    ['it has a customer', 4, () => edit('customer', customer.id)],
    [
      'the customer is changed',
      3,
      () => maren.patch(`/customers/${customer.id}`, { name: 'Fennick Salads', values: { credit: true } }),
    ],
    ['it has a contact', 3, () => edit('contact', contact.id)],
    [
      'the contact is changed',
      2,
      () => maren.patch(`/contacts/${contact.id}`, { name: 'Ann', values: { [contactField]: true } }),
    ],
    [
      'a rate is set',
      1,
      () => maren.send('PUT', '/rates', { from: 'SEK', to: 'GBP', day: '2026-11-24', rate: 0.2 }, 200),
    ],
    [
      'the rate is set anew',
      2,
      () => maren.send('PUT', '/rates', { from: 'SEK', to: 'GBP', day: '2026-11-24', rate: 0.01 }, 200),
    ],
    ['days go by', 1, async () => test.clock.pass(3 * DAY)],
    ['it is waived', 0, waive],
    ['the waiver lapses', 1, async () => test.clock.pass(8 * DAY)],
    ['a version asks otherwise', 2, () => republish([...ASKED(), filled('area', 'area')])],
    [
      'the step is done',
      2,
      async () => {
        const { stepsAtHand, version } = await page();
        return maren.post(`/deals/${deal}/steps/${stepsAtHand[0].seq}/result`, {
          result: 'yes',
          version: version.id,
          captures: [],
        });
      },
    ],
  ];
  for (const [what, missing, act] of done) {
    await act();
    maren = await test.as('maren');
    const { lanes, list, page: right } = await both();
    expect({ what, lanes, list }).toEqual({ what, lanes: right, list: right });
    expect({ what, missing: right.missing }).toEqual({ what, missing });
    // Once more, by what was kept.
    expect({ what, ...(await both()) }).toEqual({ what, lanes, list, page: right });
  }
});
