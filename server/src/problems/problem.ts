import type { InputProblem, problem, TypeOf } from '@ladder/contract';

type ProblemDocument = TypeOf<typeof problem>;
type Extras = Omit<ProblemDocument, 'type' | 'title' | 'status'>;

const TITLES: Readonly<Record<number, string>> = {
  400: 'The request is not right',
  401: 'Sign in first',
  403: 'This is not yours to do',
  404: 'Not found',
  409: 'Changed meanwhile',
  412: 'Changed meanwhile',
  413: 'Too large',
  415: 'Not a format that can be read',
  422: 'This cannot be done as it stands',
  428: 'Say which revision you saw',
  429: 'Too many tries',
  500: 'Something went wrong here',
  503: 'Try again',
};

/** A refusal that is told to the caller as a problem document (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  readonly extras: Extras;
  /** After how many seconds it is worth asking again; null where it is not. */
  readonly retryAfter: number | null;

  constructor(status: number, detail: string, extras: Omit<Extras, 'detail'> = {}, retryAfter: number | null = null) {
    super(detail);
    this.status = status;
    this.extras = { detail, ...extras };
    this.retryAfter = retryAfter;
  }

  toDocument(): ProblemDocument {
    return { type: 'about:blank', title: TITLES[this.status] ?? 'Problem', status: this.status, ...this.extras };
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, `There is no such ${what}, or it is not yours to see.`);

/** Several things wrong with what was sent, each at its pointer. */
export const invalid = (errors: readonly InputProblem[], status: 400 | 409 | 422 = 400): Problem =>
  new Problem(status, errors.map(({ detail }) => detail).join(' '), { errors });
