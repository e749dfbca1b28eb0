import type { Change, Deal, DealPartName, DealWith } from '@ladder/core';
import { type Columns, object, type Row } from './columns.ts';

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
  /**
   * A deal that was written as it will be read: without what is no longer read, in the order of reading. Null where more is read
   * than was known before.
   */
  readonly asRead?: (written: Deal, before: Deal) => Partial<DealWith<Name>> | null;
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

/** Parts that are one list, under their own name. */
type ListName = { [Name in DealPartName]: PropertyOf<Name> extends Name ? Name : never }[DealPartName];
type ItemOf<Name extends ListName> =
  DealWith<Name> extends { readonly [Property in Name]: readonly (infer Item)[] } ? Item : never;

/** What tells all properties of what such a list holds. */
export type ColumnsOf<Name extends ListName> = Columns<ItemOf<Name>>;

/** How a part is read that is a list of rows of its own, in an order. */
export function listed<Name extends ListName>(
  name: Name,
  columns: ColumnsOf<Name>,
  rest: string,
  order: string,
): Required<Pick<StoredPart<Name>, 'select' | 'from' | 'read'>> {
  const { texts, read } = object(columns);
  const rowsIn = (given: DealWith<Name>) => (given as unknown as Record<Name, readonly Row[]>)[name];
  return {
    select: { [name]: `${name}.list` } as Required<StoredPart<Name>>['select'],
    from: `left join lateral (select coalesce(array_to_json(array_agg(array[${texts.join(', ')}] order by ${order})), '[]') as list
      from ${rest}) ${name} on true`,
    read: (given) => ({ [name]: rowsIn(given).map((row) => read(row, 0)) }) as Partial<DealWith<Name>>,
  };
}

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
