import type { ErrorRequestHandler } from 'express';
import { QueryFailedError } from 'typeorm';
import type { Context } from '../context.ts';
import { brokenConstraint, isConnectionLost, OutcomeUnknown, sqlState } from '../db/failures.ts';
import { Problem } from '../problems/problem.ts';

const SQL = { lockNotAvailable: '55P03', deadlock: '40P01', serialization: '40001', uniqueViolation: '23505' };

/** The one place where an error becomes an answer. What nobody expected is logged whole and told without its insides. */
export function handleErrors(context: Context): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const problem = toProblem(error);
    if (problem.status >= 500)
      context.log.error({ err: error, method: request.method, path: request.path }, 'request failed');
    if (problem.retryAfter !== null) response.set('Retry-After', String(problem.retryAfter));
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem.toDocument()));
  };
}

function toProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof OutcomeUnknown)
    return new Problem(
      500,
      'The connection to the database was lost just as this was being saved, so it is not known whether it was. Asking again with the same Idempotency-Key is safe: nothing is done twice.',
    );
  if (isConnectionLost(error))
    return new Problem(503, 'The database does not answer at the moment. Nothing was changed; try again.', {}, 5);
  if (error instanceof QueryFailedError) return databaseProblem(error);
  return requestProblem(error) ?? unexpected();
}

const unexpected = (): Problem => new Problem(500, 'The error was written to the log. Nothing was changed.');

function databaseProblem(error: QueryFailedError): Problem {
  const code = sqlState(error);
  if (code === SQL.lockNotAvailable || code === SQL.deadlock || code === SQL.serialization) {
    return new Problem(
      503,
      'Someone is changing the same thing right now, or a version is being published. Nothing was changed; try again.',
      {},
      2,
    );
  }
  if (code === SQL.uniqueViolation)
    return new Problem(409, UNIQUE[brokenConstraint(error) ?? ''] ?? 'This exists already.');
  return unexpected();
}

const UNIQUE: Readonly<Record<string, string>> = {
  deals_external_id: 'There is already a deal with this external id.',
  processes_name_fold_key: 'There is already a process with this name.',
  teams_name_fold_key: 'There is already a team with this name.',
  people_email_fold_key: 'There is already a person with this e-mail address.',
  fields_holder_name_fold_key: 'There is already a field with this name.',
  process_versions_one_draft: 'This process already has a draft.',
};

const BODY_PROBLEMS: Readonly<Record<string, string>> = {
  'entity.too.large': 'The request is larger than this server reads.',
  'entity.parse.failed': 'The body is not valid JSON.',
  'encoding.unsupported': 'The body is compressed in a way that this server does not read.',
  'charset.unsupported': 'The body is written in a charset that this server does not read. Send UTF-8.',
  'request.aborted': 'The request ended before its body did.',
  'request.size.invalid': 'The body is not as long as its Content-Length says.',
};

/** What the framework refused before any of our code was asked: a status below 500 is the sender's doing. */
function requestProblem(error: unknown): Problem | null {
  if (typeof error !== 'object' || error === null) return null;
  const { status, type } = error as { status?: unknown; type?: unknown };
  if (typeof status !== 'number' || status < 400 || status >= 500) return null;
  const detail = BODY_PROBLEMS[String(type)] ?? (type === undefined ? PATH_DETAIL : 'The body cannot be read.');
  return new Problem(status, detail, { errors: [{ pointer: type === undefined ? '/path' : '', detail }] });
}

const PATH_DETAIL = 'The address is not written as addresses are: a % stands without two hexadecimal digits behind it.';
