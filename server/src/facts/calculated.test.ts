import { USUAL_OUTCOMES } from '@ladder/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Client } from '../testing/client.ts';
import {
  DOCUMENT,
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

const of = (field: string) => ({ kind: 'field', field }) as const;
const addField = async (definition: object) => String((await maren.post('/fields', definition, 201)).body.id);
const atLeast = (field: string, value: number) =>
  ({
    id: 'enough',
    level: 'hold',
    binds: 'must_stay',
    kind: 'criterion',
    criterion: { kind: 'at_least', left: of(field), right: { of: 'value', value } },
  }) as const;
const asking = (name: string, requirement: ReturnType<typeof atLeast>, ...fields: readonly string[]) => ({
  ...DOCUMENT,
  name,
  sections: [...DOCUMENT.sections, { id: 'own', name: 'Own', fields }],
  stages: [
    stage('only', 'Only', {
      enter: [
        {
          ...requirement,
          criterion: { ...requirement.criterion, left: { of: 'field', field: requirement.criterion.left.field } },
        },
      ],
    }),
  ],
  outcomes: USUAL_OUTCOMES.deal,
});

describe('a calculated number of a customer', () => {
  it('is worked out when the customer is written, added or already there, and judges its deals', async () => {
    const staff = await addField({ holder: 'customer', type: 'number', name: 'Staff' });
    const { body: known } = await maren.post('/customers', { name: 'Known', values: { [staff]: 4 } }, 201);
    const double = await addField({
      holder: 'customer',
      type: 'calculated',
      name: 'Twice the staff',
      formula: { kind: 'add', left: of(staff), right: of(staff) },
    });
    const { body: list } = await maren.get('/customers?find=known');
    expect(list.items[0].values).toEqual({ [staff]: 4, [double]: 8 });
    const process = await publishFirst(maren, asking('Staffed', atLeast(double, 10)) as never);
    const { body: deal } = await maren.post('/deals', { process, name: 'Deal', values: { customer: known.id } }, 201);
    expect(deal).toMatchObject({ standing: 'held', partyValues: { [double]: 8 } });
    expect(deal.owed).toMatchObject([{ state: 'unmet', remedy: { kind: 'fill', fields: [staff] } }]);
    await maren.patch(`/customers/${known.id}`, { values: { [staff]: 6 } });
    expect((await maren.get(`/deals/${deal.id}`)).body).toMatchObject({
      standing: 'clear',
      partyValues: { [double]: 12 },
    });
  });
});

describe('a calculated number over several currencies', () => {
  it('waits for the rate, names it as what is missing, and has its value as soon as it is set', async () => {
    const cost = await addField({ holder: 'deal', type: 'money', name: 'Build cost' });
    const margin = await addField({
      holder: 'deal',
      type: 'calculated',
      name: 'Margin',
      formula: { kind: 'subtract', left: of('value'), right: of(cost) },
    });
    const process = await publishFirst(maren, asking('Margins', atLeast(margin, 50), cost) as never);
    const values = { value: { minor: 100_00, currency: 'GBP' }, [cost]: { minor: 5_000, currency: 'JPY' } };
    const { body: deal } = await maren.post('/deals', { process, name: 'Deal', values }, 201);
    expect(deal.owed).toMatchObject([
      { state: 'missing', remedy: { kind: 'set_rate', rates: [{ from: 'JPY', to: 'GBP' }] } },
    ]);
    await maren.send('PUT', '/rates', { from: 'JPY', to: 'GBP', day: '2026-11-24', rate: 0.005 }, 200);
    expect((await maren.get(`/deals/${deal.id}`)).body).toMatchObject({ standing: 'clear', values: { [margin]: 75 } });
  });

  it('that a publish adds has its value at once', async () => {
    const process = await publishFirst(maren, { ...DOCUMENT, name: 'Later', stages: [stage('only', 'Only')] });
    const { body: deal } = await maren.post('/deals', { process, name: 'Deal', values: { area: 21 } }, 201);
    const double = await addField({
      holder: 'deal',
      type: 'calculated',
      name: 'Twice the area',
      formula: { kind: 'add', left: of('area'), right: of('area') },
    });
    await maren.post(`/processes/${process}/draft`, undefined, 201);
    const sections = [...DOCUMENT.sections, { id: 'own', name: 'Own', fields: [double] }];
    await saveAndPublish(maren, process, { ...DOCUMENT, name: 'Later', sections, stages: [stage('only', 'Only')] });
    expect((await maren.get(`/deals/${deal.id}`)).body.values[double]).toBe(42);
  });
});
