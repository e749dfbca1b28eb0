import { bell } from '../bell.ts';
import { endpoint } from '../endpoint.ts';
import { dealId, object } from '../schema.ts';
import { paging } from './queries.ts';

const dealParams = object({ deal: dealId() });

/** What is told to the person who asks, and what they watch. */
export const bellEndpoints = {
  listNotices: endpoint({
    id: 'listNotices',
    method: 'get',
    path: '/bell',
    summary: 'What was told to oneself, the latest first',
    callers: 'signed_in',
    query: object(paging),
    status: 200,
    answer: bell.page,
  }),
  countUnread: endpoint({
    id: 'countUnread',
    method: 'get',
    path: '/bell/unread',
    summary: 'How much of it is unread',
    callers: 'signed_in',
    status: 200,
    answer: bell.unread,
  }),
  readNotices: endpoint({
    id: 'readNotices',
    method: 'post',
    path: '/bell/read',
    summary: 'Notices were read: those that are named, or all',
    callers: 'signed_in',
    body: bell.reading,
    status: 200,
    answer: bell.unread,
  }),
  getBellChoices: endpoint({
    id: 'getBellChoices',
    method: 'get',
    path: '/bell/choices',
    summary: 'What of it is sent as a message too',
    callers: 'signed_in',
    status: 200,
    answer: bell.choices,
  }),
  setBellChoices: endpoint({
    id: 'setBellChoices',
    method: 'put',
    path: '/bell/choices',
    summary: 'Choose what of it is sent as a message too',
    callers: 'signed_in',
    body: bell.choices,
    status: 200,
    answer: bell.choices,
  }),
  getWatchers: endpoint({
    id: 'getWatchers',
    method: 'get',
    path: '/deals/{deal}/watchers',
    summary: 'Who watches a deal',
    callers: 'signed_in',
    params: dealParams,
    status: 200,
    answer: bell.watchers,
    problems: [404],
  }),
  watchDeal: endpoint({
    id: 'watchDeal',
    method: 'put',
    path: '/deals/{deal}/watchers/me',
    summary: 'Watch a deal: what others do with it is told',
    callers: 'signed_in',
    params: dealParams,
    status: 200,
    answer: bell.watchers,
    problems: [404],
  }),
  unwatchDeal: endpoint({
    id: 'unwatchDeal',
    method: 'delete',
    path: '/deals/{deal}/watchers/me',
    summary: 'Watch a deal no longer',
    callers: 'signed_in',
    params: dealParams,
    status: 200,
    answer: bell.watchers,
    problems: [404],
  }),
};
