import { deal } from '../deals.ts';
import { endpoint } from '../endpoint.ts';
import { dealId, integer, object } from '../schema.ts';
import { waivers } from '../waivers.ts';
import { WORKING } from './callers.ts';

const dealParams = object({ deal: dealId() });
const requestParams = object({ deal: dealId(), request: integer(1, 2_147_483_647) });

/** Waivers of requirements that hold a move. */
export const waiversEndpoints = {
  askWaiver: endpoint({
    id: 'askWaiver',
    method: 'post',
    path: '/deals/{deal}/waivers',
    summary: 'Ask that requirements which hold a move may be passed for a time',
    callers: WORKING,
    params: dealParams,
    body: deal.askWaiver,
    status: 201,
    answer: deal.detail,
    problems: [404, 409, 422],
    headers: ['Idempotency-Key'],
  }),
  getWaiver: endpoint({
    id: 'getWaiver',
    method: 'get',
    path: '/deals/{deal}/waivers/{request}',
    summary: 'A request with the gate as it was, what was asked before, and how often these requirements are waived',
    callers: 'signed_in',
    params: requestParams,
    status: 200,
    answer: waivers.deciding,
    problems: [404],
  }),
  decideWaiver: endpoint({
    id: 'decideWaiver',
    method: 'put',
    path: '/deals/{deal}/waivers/{request}/decision',
    summary: 'Grant a waiver, for as long as asked or shorter, or refuse it; nobody grants their own',
    callers: WORKING,
    params: requestParams,
    body: waivers.decision,
    status: 200,
    answer: deal.detail,
    problems: [404, 409, 422],
    headers: ['Idempotency-Key'],
  }),
  withdrawWaiver: endpoint({
    id: 'withdrawWaiver',
    method: 'delete',
    path: '/deals/{deal}/waivers/{request}',
    summary: 'Take back what one asked for',
    callers: WORKING,
    params: requestParams,
    status: 200,
    answer: deal.detail,
    problems: [404, 409],
    headers: ['Idempotency-Key'],
  }),
  revokeWaiver: endpoint({
    id: 'revokeWaiver',
    method: 'post',
    path: '/deals/{deal}/waivers/{request}/revoke',
    summary: 'Revoke a waiver that one granted, with a word',
    callers: WORKING,
    params: requestParams,
    body: waivers.revoking,
    status: 200,
    answer: deal.detail,
    problems: [404, 409, 422],
    headers: ['Idempotency-Key'],
  }),
};
