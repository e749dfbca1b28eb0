/*
 * How rows of a deal's lists are read: each as one array of texts, which takes PostgreSQL half of what naming what every column
 * is takes it, or finding out its type to make JSON of it.
 */

export type Row = readonly (string | null)[];

/** What tells a property: expressions of texts, and what is made of them. */
export interface Column<T> {
  readonly texts: readonly string[];
  /** `at` is the place of the first of its texts. */
  readonly read: (row: Row, at: number) => T;
}

/** All properties of something, so that none is forgotten. */
export type Columns<T> = { readonly [Property in Exclude<keyof T, never>]: Column<T[Property]> };

const asText = (column: string): string => `(${column})::text`;

export const text = <T extends string | null>(column: string): Column<T> => ({
  texts: [asText(column)],
  read: (row, at) => row[at] as T,
});

/** Numbers without end among them. */
export const number = <T extends number | null>(column: string): Column<T> => ({
  texts: [asText(column)],
  read: (row, at) => {
    const told = row[at] ?? null;
    return (told === null ? null : Number(told)) as T;
  },
});

/** An instant in milliseconds since 1970. */
export const ms = (column: string): string => `round(date_part('epoch', ${column}) * 1000)`;

export const instant = <T extends number | null>(column: string): Column<T> => number(ms(column));

export const yesNo = (column: string): Column<'yes' | 'no'> => text(`case when ${column} then 'yes' else 'no' end`);

/** Who did something, in the columns that `actorColumns` fills. */
export const actor = <T extends string | null>(person: string, other: string): Column<T> =>
  text(`coalesce(${other}, ${person}::text)`);

export const json = <T>(column: string): Column<T> => ({
  texts: [asText(column)],
  read: (row, at) => JSON.parse(row[at] ?? 'null') as T,
});

/** Something whole; null where the property that is named has no text. */
export function whole<T extends object>(name: keyof T, columns: Columns<T>): Column<T | null> {
  const { texts, read } = object(columns);
  const place = placesOf(columns).find((one) => one.name === name)?.place ?? 0;
  return { texts, read: (row, at) => ((row[at + place] ?? null) === null ? null : read(row, at)) };
}

export function object<T extends object>(columns: Columns<T>): Column<T> {
  const places = placesOf(columns);
  return {
    texts: Object.values<Column<unknown>>(columns).flatMap(({ texts }) => texts),
    read: (row, at) => {
      const made: Record<PropertyKey, unknown> = {};
      for (const { name, read, place } of places) made[name] = read(row, at + place);
      return made as T;
    },
  };
}

function placesOf<T extends object>(columns: Columns<T>) {
  let place = 0;
  return Object.entries<Column<unknown>>(columns).map(([name, { texts, read }]) => {
    const own = place;
    place += texts.length;
    return { name, read, place: own };
  });
}
