/** The columns that a list is in the order of, each with its kind: a page begins behind the mark of the row before it. */
export type ListOrder = readonly (readonly [column: string, kind: 'number' | 'text'])[];

/** A row's place in its list, as the next page begins behind it. */
export type ListMark = readonly (string | number)[];

const TYPES = { number: 'integer', text: 'text' } as const;

const columnsOf = (order: ListOrder): string => order.map(([column]) => column).join(', ');

/** The page of `source` behind the mark, each row with its own as `mark`. Needs :limit and what `markParameters` gives. */
export function pageInOrder(source: string, order: ListOrder): string {
  const mark = order.map(([, kind], place) => `:mark${place}::${TYPES[kind]}`).join(', ');
  return `select *, json_build_array(${columnsOf(order)}) as mark from ${source}
    where :mark0::text is null or (${columnsOf(order)}) > (${mark}) order by ${columnsOf(order)} limit :limit`;
}

/** The kinds of a mark's parts, for `readCursor`. */
export const marksOf = (order: ListOrder): readonly ('number' | 'text')[] => order.map(([, kind]) => kind);

export const markParameters = (
  order: ListOrder,
  mark: ListMark | null,
): Readonly<Record<string, string | number | undefined>> =>
  Object.fromEntries(order.map((_column, place) => [`mark${place}`, mark?.[place]]));
