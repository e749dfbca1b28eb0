import { endpoint } from '../endpoint.ts';
import { rates } from '../rates.ts';
import { object } from '../schema.ts';
import { ADMINISTRATOR } from './callers.ts';
import { paging } from './queries.ts';

/** Exchange rates. */
export const ratesEndpoints = {
  listRates: endpoint({
    id: 'listRates',
    method: 'get',
    path: '/rates',
    summary: 'Exchange rates, the latest first',
    callers: ADMINISTRATOR,
    query: object(paging),
    status: 200,
    answer: rates.page,
  }),
  setRate: endpoint({
    id: 'setRate',
    headers: ['Idempotency-Key'],
    long: 'yes',
    method: 'put',
    path: '/rates',
    summary: 'Set the rate of a day; open deals are judged by it from now on',
    callers: ADMINISTRATOR,
    body: rates.rate,
    status: 200,
    answer: rates.rate,
    problems: [409],
  }),
};
