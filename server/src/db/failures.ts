import { QueryFailedError, QueryRunnerAlreadyReleasedError, QueryRunnerProviderAlreadyReleasedError } from 'typeorm';

interface DatabaseError {
  readonly code?: string;
  readonly constraint?: string;
}

const driverError = (error: unknown): DatabaseError | null => {
  const inner = error instanceof QueryFailedError ? error.driverError : error;
  return typeof inner === 'object' && inner !== null ? (inner as DatabaseError) : null;
};

/** The SQLSTATE that PostgreSQL gave, if it is an error of its own. */
export const sqlState = (error: unknown): string | null => {
  const code = driverError(error)?.code;
  return code !== undefined && /^[0-9A-Z]{5}$/.test(code) ? code : null;
};

/** The name of the constraint that was broken. */
export const brokenConstraint = (error: unknown): string | undefined => driverError(error)?.constraint;

/** Whether what it needed was held too long by someone else. */
export const isLockTimeout = (error: unknown): boolean => sqlState(error) === '55P03';

/** Network errors of Node; 08…: connection exceptions, 57P…: the server is shutting down or starting (PostgreSQL, appendix A). */
const LOST = /^(ECONN|EPIPE|ETIMEDOUT|ENOTFOUND|EHOSTUNREACH|ENETUNREACH|08|57P0[1-3])/;
const LOST_MESSAGES =
  /Connection terminated|timeout expired|timeout exceeded when trying to connect|Client has encountered a connection error|Driver not Connected|Connection ended/i;

/** A thread lost its connection; what it threw does not reach other threads as it was. */
export class ConnectionLost extends Error {}

/** Whether the database could not be reached, or went away meanwhile. */
export function isConnectionLost(error: unknown): boolean {
  if (error instanceof ConnectionLost) return true;
  // A connection that is found to be gone between two statements is let go of at once.
  if (error instanceof QueryRunnerAlreadyReleasedError || error instanceof QueryRunnerProviderAlreadyReleasedError)
    return true;
  const inner = driverError(error);
  const message = error instanceof Error ? error.message : '';
  return LOST.test(inner?.code ?? '') || LOST_MESSAGES.test(message);
}

/** The connection was lost while a transaction committed: it may have, or not. */
export class OutcomeUnknown extends Error {
  constructor(cause: unknown) {
    super('The connection was lost while a transaction committed.', { cause });
  }
}
