import { DAY_ORDERS } from '@ladder/core';
import { endpoint } from '../endpoint.ts';
import { id, object, oneOf, optional } from '../schema.ts';
import { today } from '../today.ts';
import { WORKING } from './callers.ts';
import { paging } from './queries.ts';

/** One's own where neither is named; a manager's teams and their people; anyone's for an administrator. */
const whose = { person: optional(id()), team: optional(id()) };

/** What there is to do, computed as it is read. */
export const todayEndpoints = {
  getToday: endpoint({
    id: 'getToday',
    method: 'get',
    path: '/today',
    summary: 'What there is to do: a deal once, under its strongest reason',
    callers: WORKING,
    query: object({ ...whose, order: optional(oneOf(DAY_ORDERS)), ...paging }),
    status: 200,
    answer: today.day,
    problems: [404, 422],
  }),
  countLate: endpoint({
    id: 'countLate',
    method: 'get',
    path: '/today/late',
    summary: 'How many of one’s own deals are held or late',
    callers: WORKING,
    query: object({}),
    status: 200,
    answer: today.late,
  }),
  listDoneToday: endpoint({
    id: 'listDoneToday',
    method: 'get',
    path: '/today/done',
    summary: 'Steps and tasks that were done today, the last first',
    callers: WORKING,
    query: object(whose),
    status: 200,
    answer: today.done,
    problems: [404, 422],
  }),
  handOver: endpoint({
    id: 'handOver',
    method: 'post',
    path: '/today/hand-over',
    summary: 'Pass several steps and tasks to someone who may change their deals: all or none',
    callers: ['administrator', 'manager'],
    body: today.handOver,
    status: 200,
    answer: today.handedOver,
    problems: [404, 409, 422],
    headers: ['Idempotency-Key'],
  }),
};
