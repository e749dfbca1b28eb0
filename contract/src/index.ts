export { bell } from './bell.ts';
export {
  type BookCompany,
  type BookDeal,
  type BookPart,
  type BookTemplate,
  DEMO_PASSWORD,
  readBookPart,
  writeBookPart,
} from './book.ts';
export { calendars } from './calendars.ts';
export { compliance } from './compliance.ts';
export { deal } from './deals.ts';
export { designCheck } from './designCheck.ts';
export { type Callers, type Endpoint, endpoint, type Heavy, MOST_AT_ONCE } from './endpoint.ts';
export { allEndpoints, endpoints } from './endpoints/index.ts';
export { facts } from './facts.ts';
export { imports } from './imports.ts';
export { lanes } from './lanes.ts';
export { messages } from './messages.ts';
export { openApiDocument, RESPOND_ASYNC, SESSION_COOKIE, TOKEN_HEADER } from './openapi.ts';
export { people, ROLES, type Role } from './people.ts';
export { problem } from './problem.ts';
export { processDocumentSchema, processFileSchema } from './processDocumentSchema.ts';
export { MOST_TURNED, processes } from './processes.ts';
export { rates } from './rates.ts';
export type { JsonSchema, Schema, TypeOf } from './schema.ts';
export { SETTINGS_LOGGED, type SettingLogged, settingsLog } from './settingsLog.ts';
export { tasks } from './tasks.ts';
export { today } from './today.ts';
export { type InputProblem, parse } from './validate.ts';
export { waivers } from './waivers.ts';
export { WORK_KINDS, WORK_STATES, type WorkKindName, work } from './work.ts';
