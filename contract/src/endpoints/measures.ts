import { FINDING_KINDS } from '@ladder/core';
import { compliance } from '../compliance.ts';
import { endpoint } from '../endpoint.ts';
import { day, id, object, oneOf, optional, stageId } from '../schema.ts';
import { paging, processParams } from './queries.ts';

/** How deals comply and move. */
export const measuresEndpoints = {
  getCompliance: endpoint({
    id: 'getCompliance',
    heavy: 'report',
    method: 'get',
    path: '/processes/{process}/compliance',
    summary: 'How the open deals comply, by stage',
    callers: 'signed_in',
    params: processParams,
    query: object({ owner: optional(id()), team: optional(id()) }),
    status: 200,
    answer: compliance.summary,
    problems: [404],
  }),
  listFindings: endpoint({
    id: 'listFindings',
    heavy: 'report',
    method: 'get',
    path: '/processes/{process}/findings',
    summary: 'Findings on open deals: those that hold first, then the oldest',
    callers: 'signed_in',
    params: processParams,
    query: object({
      ...paging,
      stage: optional(stageId()),
      kind: optional(oneOf(FINDING_KINDS)),
      owner: optional(id()),
      team: optional(id()),
    }),
    status: 200,
    answer: compliance.findingsPage,
    problems: [404],
  }),
  getMovement: endpoint({
    id: 'getMovement',
    heavy: 'report',
    method: 'get',
    path: '/processes/{process}/movement',
    summary: 'How deals moved, by stage',
    callers: 'signed_in',
    params: processParams,
    query: object({ from: optional(day()), to: optional(day()), owner: optional(id()), team: optional(id()) }),
    status: 200,
    answer: compliance.movement,
    problems: [404],
  }),
};
