import type { Change, Deal, DealPartName, DealWith } from '@ladder/core';

/** A change to write: the deal as it was loaded (null where it is new), and what a command made of it. */
export interface DealWrite {
  readonly before: Deal | null;
  readonly change: Change;
  /** The import that made it. */
  readonly importId?: string;
  /** History that is told to nobody. */
  readonly tells?: 'nobody';
}

type PropertyOf<Name extends DealPartName> = Exclude<keyof DealWith<Name>, keyof DealWith<never>>;

/** How one part of a deal is kept: in columns of the deal's own row, in a table of its own, or both. */
export interface StoredPart<Name extends DealPartName> {
  /** What is selected of it, each under the name of its property. Every property is named, so that none is forgotten. */
  readonly select: { readonly [Property in PropertyOf<Name>]: string };
  /** What its columns are selected from, beside the deal's row `d` and its head `h`. */
  readonly from?: string;
  /** Makes of what JSON gave what it stands for: JSON has no number without end. */
  readonly read?: (given: DealWith<Name>) => Partial<DealWith<Name>>;
  /** Its columns of the deal's own row. */
  readonly row?: (deal: Deal) => Readonly<Record<string, unknown>>;
  /** What is written elsewhere, for all deals at once and only where it changed; nothing where there are no rows. */
  readonly writes?: (writes: readonly DealWrite[]) => readonly RowsWritten[];
}

/** Rows that a statement writes. It takes them as `:rows`, and becomes a part of one that writes all parts of the deals. */
export interface RowsWritten {
  readonly statement: string;
  readonly rows: readonly object[];
}

/** An instant as JSON gives it: milliseconds since 1970. */
export const ms = (column: string): string => `(extract(epoch from ${column}) * 1000)::float8`;

/** A sub-select of rows of a deal as one JSON list. */
export const listOf = (name: string, row: Readonly<Record<string, string>>, rest: string, order: string): string =>
  `left join lateral (select coalesce(json_agg(json_build_object(${Object.entries(row)
    .map(([property, column]) => `'${property}', ${column}`)
    .join(', ')}) order by ${order}), '[]') as list from ${rest}) ${name} on true`;

/** What a list holds now that the list before did not, the very same object: unchanged parts keep their identity. */
export function changedParts<T>(
  writes: readonly DealWrite[],
  list: (deal: Deal) => readonly T[],
): { deal: Deal; part: T }[] {
  return writes.flatMap(({ before, change: { deal } }) => {
    const old = new Set(before ? list(before) : []);
    return list(deal)
      .filter((part) => !old.has(part))
      .map((part) => ({ deal, part }));
  });
}
