import { parseDay } from '@ladder/core';
import { Problem } from '../problems/problem.ts';

/** What stands at one place of a page mark. */
const MARKS = {
  text: (part: unknown): boolean => typeof part === 'string' && !part.includes('\u0000'),
  number: (part: unknown): boolean => Number.isInteger(part) && Math.abs(part as number) < 2 ** 31,
  id: (part: unknown): boolean => matches(part, /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/),
  day: (part: unknown): boolean => typeof part === 'string' && parseDay(part) !== null,
  instant: (part: unknown): boolean =>
    matches(part, /^\S{10}[ T]([01]\d|2[0-3])(:[0-5]\d){2}(\.\d+)?(Z|[+-](0\d|1[0-5])(:?[0-5]\d)?)$/) &&
    parseDay(String(part).slice(0, 10)) !== null,
} as const;
type Mark = keyof typeof MARKS;
type Cursor<M extends readonly Mark[]> = {
  readonly [Place in keyof M]: M[Place] extends 'number' ? number : string;
};

const matches = (part: unknown, pattern: RegExp): boolean => typeof part === 'string' && pattern.test(part);

/**
 * Where a page begins: the sort values of the last row of the one before, each of the kind that the list sorts by. A mark
 * may have been made up by anyone.
 */
export function readCursor<const M extends readonly Mark[]>(after: string | undefined, marks: M): Cursor<M> | null {
  if (after === undefined) return null;
  const parts = decode(after);
  if (Array.isArray(parts) && parts.length === marks.length && marks.every((mark, place) => MARKS[mark](parts[place])))
    return parts as unknown as Cursor<M>;
  throw new Problem(400, 'This place in the list is not known.', {
    errors: [{ pointer: '/query/after', detail: 'Use `next` of the page before as it came.' }],
  });
}

function decode(after: string): unknown {
  try {
    return JSON.parse(Buffer.from(after, 'base64url').toString('utf8'));
  } catch {
    return null;
  }
}

/** A page of at most `limit` rows out of `limit + 1` that were read. */
export function toPage<Row, Item>(
  rows: readonly Row[],
  limit: number,
  cursor: (row: Row) => readonly (string | number | null)[],
  item: (row: Row) => Item,
): { items: Item[]; next: string | null } {
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  const next = rows.length > limit && last ? Buffer.from(JSON.stringify(cursor(last))).toString('base64url') : null;
  return { items: shown.map(item), next };
}

export const DEFAULT_LIMIT = 50;

/** What lists with a search take. */
export interface ListQuery {
  readonly after?: string;
  readonly limit?: number;
  readonly find?: string;
}
