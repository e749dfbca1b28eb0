import { IncomingMessage, type ServerOptions, ServerResponse } from 'node:http';
import type { Express } from 'express';

type Messages = Required<Pick<ServerOptions, 'IncomingMessage' | 'ServerResponse'>>;

/**
 * Requests and responses that are Express's own from the beginning. Express sets the prototypes of each that comes, and what was
 * given another prototype is like no object before it: every handler would look for every property anew.
 */
export function expressMessages(app: Express): Messages {
  class Request extends IncomingMessage {}
  class Response<From extends IncomingMessage> extends ServerResponse<From> {}
  app.request = Object.setPrototypeOf(Request.prototype, app.request);
  app.response = Object.setPrototypeOf(Response.prototype, app.response);
  return { IncomingMessage: Request, ServerResponse: Response };
}
