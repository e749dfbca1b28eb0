import { DAY_ORDERS } from '@ladder/core';
import { endpoint } from '../endpoint.ts';
import { day, id, object, oneOf, optional, text } from '../schema.ts';
import { today } from '../today.ts';
import { WORKING } from './callers.ts';
import { paging } from './queries.ts';

/** One's own where neither is named; a manager's teams and their people; anyone's for an administrator. */
const whose = { person: optional(id()), team: optional(id()) };

/** What there is to do, computed as it is read. */
export const todayEndpoints = {
  getToday: endpoint({
    id: 'getToday',
    heavy: 'report',
    method: 'get',
    path: '/today',
    summary: 'What there is to do: a deal once, under its strongest reason',
    callers: WORKING,
    query: object({ ...whose, order: optional(oneOf(DAY_ORDERS)), ...paging }),
    status: 200,
    answer: today.day,
    problems: [404, 422],
  }),
  getCalendar: endpoint({
    id: 'getCalendar',
    heavy: 'report',
    method: 'get',
    path: '/today/calendar',
    summary: 'What is due on which day: steps, tasks, next actions, follow-ups and close dates, for at most 62 days',
    callers: WORKING,
    query: object({ ...whose, from: day(), to: day() }),
    status: 200,
    answer: today.calendar,
    problems: [404, 422],
  }),
  getFeed: endpoint({
    id: 'getFeed',
    method: 'get',
    path: '/session/feed',
    summary: 'Whether one has a calendar feed, and when it was read last',
    callers: WORKING,
    status: 200,
    answer: today.feed,
  }),
  makeFeed: endpoint({
    id: 'makeFeed',
    method: 'post',
    path: '/session/feed',
    summary: 'Make one’s calendar feed, or another address for it; the one before is revoked',
    callers: WORKING,
    status: 201,
    answer: today.newFeed,
  }),
  revokeFeed: endpoint({
    id: 'revokeFeed',
    method: 'delete',
    path: '/session/feed',
    summary: 'Revoke one’s calendar feed',
    callers: WORKING,
    status: 204,
  }),
  readFeed: endpoint({
    id: 'readFeed',
    method: 'get',
    path: '/calendar.ics',
    summary: 'A person’s calendar feed, by its secret key (RFC 5545)',
    callers: 'anyone',
    query: object({ key: text({ max: 100 }) }),
    status: 200,
    download: 'text/calendar',
    problems: [404],
  }),
  countLate: endpoint({
    id: 'countLate',
    heavy: 'report',
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
