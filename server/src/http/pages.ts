import { Problem } from './problem.ts';

/** Where a page begins: the sort values of the last row of the one before. */
export function readCursor<T extends readonly (string | number)[]>(after: string | undefined): T | null {
  if (after === undefined) return null;
  try {
    const value: unknown = JSON.parse(Buffer.from(after, 'base64url').toString('utf8'));
    if (Array.isArray(value)) return value as unknown as T;
  } catch {
    // Falls through to the same problem as a cursor of another form.
  }
  throw new Problem(400, 'This place in the list is not known.', {
    errors: [{ pointer: '/query/after', detail: 'Use `next` of the page before as it came.' }],
  });
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
