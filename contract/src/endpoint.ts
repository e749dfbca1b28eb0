import type { Role } from './people.ts';
import type { Schema } from './schema.ts';

/** Who may call: anyone, anyone signed in, or people of these roles. Which deals they reach is decided with the deal. */
export type Callers = 'anyone' | 'signed_in' | readonly Role[];

/** Kinds of heavy work, and how many of each one person may have under way. */
export const MOST_AT_ONCE = { upload: 2, document: 4, preview: 2, report: 8 } as const;
export type Heavy = keyof typeof MOST_AT_ONCE;

export interface Endpoint<Params = unknown, Query = unknown, Body = unknown, Answer = unknown> {
  readonly id: string;
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Under `/api/v1`, parameters in braces. */
  readonly path: string;
  readonly summary: string;
  readonly callers: Callers;
  readonly params?: Schema<Params>;
  readonly query?: Schema<Query>;
  readonly body?: Schema<Body>;
  /** A body that is not JSON: its media type. */
  readonly upload?: string;
  readonly status: 200 | 201 | 202 | 204;
  readonly answer?: Schema<Answer>;
  /** An answer that is not JSON: its media type. */
  readonly download?: string;
  /** Statuses of the problem documents it may answer with, beside 400, 401 and 403. */
  readonly problems?: readonly number[];
  readonly headers?: readonly ('If-Match' | 'Idempotency-Key')[];
  /** Work through a whole book: answered once it has ended, or at once with how far it is where the caller prefers that. */
  readonly long?: 'yes';
  /** Work that weighs on the server: one person may ask for so much of each kind at once and no more. */
  readonly heavy?: Heavy;
  /** Headers of the answer, beside its media type. */
  readonly answerHeaders?: readonly 'ETag'[];
}

export const endpoint = <Params = unknown, Query = unknown, Body = unknown, Answer = unknown>(
  definition: Endpoint<Params, Query, Body, Answer>,
): Endpoint<Params, Query, Body, Answer> => definition;
