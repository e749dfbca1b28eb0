import { endpoint } from '../endpoint.ts';
import { imports, importsPage } from '../imports.ts';
import { id, object, text } from '../schema.ts';
import { ADMINISTRATOR } from './callers.ts';
import { paging } from './queries.ts';

const importParams = object({ import: id() });

/** Imports of deals. */
export const importsEndpoints = {
  listImports: endpoint({
    id: 'listImports',
    method: 'get',
    path: '/imports',
    summary: 'Imports, newest first',
    callers: ADMINISTRATOR,
    query: object(paging),
    status: 200,
    answer: importsPage,
  }),
  uploadImport: endpoint({
    id: 'uploadImport',
    heavy: 'upload',
    method: 'post',
    path: '/imports',
    summary: 'Upload a CSV file',
    callers: ADMINISTRATOR,
    query: object({ fileName: text({ max: 300 }), process: id() }),
    upload: 'text/csv',
    status: 201,
    answer: object({ import: imports.summary, preview: imports.preview }),
    problems: [404, 413, 415, 422],
  }),
  getImport: endpoint({
    id: 'getImport',
    method: 'get',
    path: '/imports/{import}',
    summary: 'An import and how far it is',
    callers: ADMINISTRATOR,
    params: importParams,
    status: 200,
    answer: imports.summary,
    problems: [404],
  }),
  previewImport: endpoint({
    id: 'previewImport',
    heavy: 'preview',
    method: 'post',
    path: '/imports/{import}/preview',
    summary: 'The first rows as they would be read',
    callers: ADMINISTRATOR,
    params: importParams,
    body: imports.settings,
    status: 200,
    answer: imports.preview,
    problems: [404, 409, 422],
  }),
  runImport: endpoint({
    id: 'runImport',
    method: 'post',
    path: '/imports/{import}/run',
    summary: 'Import the good rows',
    callers: ADMINISTRATOR,
    params: importParams,
    body: imports.settings,
    status: 202,
    answer: imports.summary,
    problems: [404, 409, 422],
  }),
  getBadRows: endpoint({
    id: 'getBadRows',
    method: 'get',
    path: '/imports/{import}/bad-rows.csv',
    summary: 'The rows that were not imported, with the reason in a last column',
    callers: ADMINISTRATOR,
    params: importParams,
    status: 200,
    download: 'text/csv',
    problems: [404],
  }),
  takeBackImport: endpoint({
    id: 'takeBackImport',
    method: 'post',
    path: '/imports/{import}/take-back',
    summary: 'Take an import back while its deals are untouched; its progress is read with the import',
    callers: ADMINISTRATOR,
    params: importParams,
    status: 202,
    answer: imports.summary,
    problems: [404, 409],
  }),
};
