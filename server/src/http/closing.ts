import type { Server } from 'node:http';
import type { RequestHandler, Response } from 'express';
import { Problem } from '../problems/problem.ts';

/** Connections that still carry a request after so long are cut. */
const DEADLINE_MS = 10_000;

/** Ends a server under load: what is in hand is finished, each connection is closed with its next answer, new requests are refused. */
export class Closing {
  private isClosing = false;
  private readonly inHand = new Set<Response>();

  readonly refuse: RequestHandler = (_request, response, next) => {
    if (this.isClosing) {
      response.set('Connection', 'close');
      throw new Problem(503, 'The server is being stopped. Try again in a moment.', {}, 5);
    }
    this.inHand.add(response);
    response.on('close', () => this.inHand.delete(response));
    next();
  };

  /** Resolves when the last connection is gone. */
  close(http: Server): Promise<void> {
    this.isClosing = true;
    // A connection that stays open after its answer would bring the next request.
    for (const response of this.inHand) if (!response.headersSent) response.set('Connection', 'close');
    return new Promise((resolve) => {
      const deadline = setTimeout(() => http.closeAllConnections(), DEADLINE_MS);
      http.close(() => {
        clearTimeout(deadline);
        resolve();
      });
      http.closeIdleConnections();
    });
  }
}
