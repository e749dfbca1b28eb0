import type { Catalogue, Field } from '@ladder/core';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';

/** A page of the catalogue, in its order. */
export function pageOfFields(
  catalogue: Catalogue,
  query: { readonly after?: string; readonly limit?: number },
): { items: Field[]; next: string | null } {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['number'])];
  const all = [...catalogue.values()].map((field, place) => ({ field, place }));
  const rows = all.filter(({ place }) => place > (cursor?.[0] ?? -1)).slice(0, limit + 1);
  return toPage(
    rows,
    limit,
    ({ place }) => [place],
    ({ field }) => field,
  );
}
