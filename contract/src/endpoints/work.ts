import { endpoint } from '../endpoint.ts';
import { id, object, optional, text } from '../schema.ts';
import { work } from '../work.ts';
import { ADMINISTRATOR } from './callers.ts';
import { paging } from './queries.ts';

const workParams = object({ work: id() });

/** Long work that goes on behind requests. */
export const workEndpoints = {
  listWork: endpoint({
    id: 'listWork',
    method: 'get',
    path: '/work',
    summary: 'Long work, the newest first; of one subject where it is named',
    callers: ADMINISTRATOR,
    query: object({ ...paging, subject: optional(text({ max: 80 })) }),
    status: 200,
    answer: work.page,
  }),
  getWork: endpoint({
    id: 'getWork',
    method: 'get',
    path: '/work/{work}',
    summary: 'How far a long work is, or how it ended',
    callers: ADMINISTRATOR,
    params: workParams,
    status: 200,
    answer: work.view,
    problems: [404],
  }),
  cancelWork: endpoint({
    id: 'cancelWork',
    method: 'post',
    path: '/work/{work}/cancel',
    summary: 'Stop a long work before it ends; nothing of it is kept',
    callers: ADMINISTRATOR,
    params: workParams,
    status: 202,
    answer: work.view,
    problems: [404, 409],
  }),
};
