import { endpoint } from '../endpoint.ts';
import { object } from '../schema.ts';
import { settingsLog } from '../settingsLog.ts';
import { ADMINISTRATOR } from './callers.ts';
import { paging } from './queries.ts';

/** What was set for the whole organisation. */
export const settingsLogEndpoints = {
  listSettingsLog: endpoint({
    id: 'listSettingsLog',
    method: 'get',
    path: '/settings/log',
    summary: 'Changes of accounts, teams, rates and kinds of documents, the latest first',
    callers: ADMINISTRATOR,
    query: object(paging),
    status: 200,
    answer: settingsLog.page,
  }),
};
