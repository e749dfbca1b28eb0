import { designCheck } from '../designCheck.ts';
import { endpoint } from '../endpoint.ts';
import { ADMINISTRATOR } from './callers.ts';
import { processParams } from './queries.ts';

/** What the design check goes by beside the document, and what it counts. */
export const designCheckEndpoints = {
  getDesignEvidence: endpoint({
    id: 'getDesignEvidence',
    heavy: 'report',
    method: 'get',
    path: '/processes/{process}/evidence',
    summary: 'How deals of the past year went through each stage',
    callers: ADMINISTRATOR,
    params: processParams,
    status: 200,
    answer: designCheck.evidence,
    problems: [404],
  }),
  listDismissals: endpoint({
    id: 'listDismissals',
    method: 'get',
    path: '/processes/{process}/dismissals',
    summary: 'Suggestions of the design check that were dismissed, and why',
    callers: ADMINISTRATOR,
    params: processParams,
    status: 200,
    answer: designCheck.dismissals,
    problems: [404],
  }),
  dismissRemark: endpoint({
    id: 'dismissRemark',
    method: 'put',
    path: '/processes/{process}/dismissals',
    summary: 'Dismiss a suggestion of the design check with a reason; without one it is told again',
    callers: ADMINISTRATOR,
    params: processParams,
    body: designCheck.dismissal,
    status: 200,
    answer: designCheck.dismissals,
    problems: [404, 409],
  }),
  countRemarks: endpoint({
    id: 'countRemarks',
    heavy: 'report',
    method: 'get',
    path: '/design-check',
    summary: 'Problems and warnings of each process’s draft, or of its live version',
    callers: ADMINISTRATOR,
    status: 200,
    answer: designCheck.counts,
  }),
};
