import { endpoint } from '../endpoint.ts';
import { anything, nullable, object, oneOf, text } from '../schema.ts';

/** The server itself. */
export const systemEndpoints = {
  getHealth: endpoint({
    id: 'getHealth',
    method: 'get',
    path: '/health',
    summary: 'Version and state of the database',
    callers: 'anyone',
    status: 200,
    answer: object({ version: text(), database: oneOf(['up', 'down']), migration: nullable(text()) }),
    problems: [503],
  }),
  getOpenApi: endpoint({
    id: 'getOpenApi',
    method: 'get',
    path: '/openapi.json',
    summary: 'This document',
    callers: 'anyone',
    status: 200,
    answer: anything(),
  }),
};
