import type { ErrorRequestHandler } from 'express';
import { QueryFailedError } from 'typeorm';
import type { Context } from '../context.ts';
import { Problem } from './problem.ts';

interface DatabaseError {
  readonly code?: string;
  readonly constraint?: string;
}

const DATABASE_CODES = { lockNotAvailable: '55P03', deadlock: '40P01', uniqueViolation: '23505' };

/** The one place where an error becomes an answer. What nobody expected is logged whole and told without its insides. */
export function handleErrors(context: Context): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const problem = toProblem(error);
    if (problem.status >= 500)
      context.log.error({ err: error, method: request.method, url: request.originalUrl }, 'request failed');
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem.toDocument()));
  };
}

function toProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof QueryFailedError) return databaseProblem(error.driverError as DatabaseError);
  if (isBodyError(error, 'entity.too.large')) return new Problem(413, 'The request is larger than this server reads.');
  if (isBodyError(error, 'entity.parse.failed'))
    return new Problem(400, 'The body is not valid JSON.', {
      errors: [{ pointer: '', detail: 'This is not valid JSON.' }],
    });
  return new Problem(500, 'The error was written to the log. Nothing was changed.');
}

function databaseProblem({ code, constraint }: DatabaseError): Problem {
  if (code === DATABASE_CODES.lockNotAvailable || code === DATABASE_CODES.deadlock) {
    return new Problem(
      503,
      'Someone is changing the same thing right now, or a version is being published. Nothing was changed; try again.',
    );
  }
  if (code === DATABASE_CODES.uniqueViolation)
    return new Problem(409, UNIQUE[constraint ?? ''] ?? 'This exists already.');
  return new Problem(500, 'The error was written to the log. Nothing was changed.');
}

const UNIQUE: Readonly<Record<string, string>> = {
  deals_external_id: 'There is already a deal with this external id.',
  processes_name_fold_key: 'There is already a process with this name.',
  teams_name_fold_key: 'There is already a team with this name.',
  people_email_fold_key: 'There is already a person with this e-mail address.',
  fields_holder_name_fold_key: 'There is already a field with this name.',
  process_versions_one_draft: 'This process already has a draft.',
};

const isBodyError = (error: unknown, type: string): boolean =>
  typeof error === 'object' && error !== null && 'type' in error && error.type === type;
