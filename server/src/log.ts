import type { IncomingMessage, ServerResponse } from 'node:http';
import { type Logger, pino } from 'pino';

interface LoggedError {
  readonly type: string;
  readonly message: string;
  readonly stack: string | undefined;
  readonly code: unknown;
  readonly constraint: unknown;
  readonly cause?: LoggedError;
}

/** The JSON log. What it says of requests and errors is listed here: no cookie, token, body or parameter, at any level. */
export const createLog = (level: string): Logger =>
  pino({
    level,
    serializers: {
      req: ({ id, method, url }: { id: unknown; method: string; url: string }) => ({ id, method, path: pathOf(url) }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
      err: toLogged,
    },
  });

/** A query may carry what someone looked for; the path says which endpoint was asked. */
const pathOf = (url: string): string => url.split('?')[0] ?? '';

/** A failed query carries its parameters, a body that could not be read carries the body: neither is written down. */
function toLogged(error: unknown): LoggedError {
  const { name, message, stack, code, constraint, cause } = error as Error & { code?: unknown; constraint?: unknown };
  const logged = { type: name, message, stack, code, constraint };
  return cause instanceof Error ? { ...logged, cause: toLogged(cause) } : logged;
}

/** What the log says of a request that was answered. */
export const REQUEST_LOG = {
  wrapSerializers: false,
  customSuccessMessage: ({ method }: IncomingMessage, { statusCode }: ServerResponse): string =>
    `${method} ${statusCode}`,
} as const;
