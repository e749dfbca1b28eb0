import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { TableHead } from './PlainTable.tsx';
import type { ShowMoreProps } from './ShowMore.tsx';

interface LongTableProps<Row> extends Pick<ShowMoreProps, 'list'> {
  /** What the columns are called; one of numbers ends in `#`. */
  readonly heads: readonly string[];
  readonly rows: readonly Row[];
  /** The cells of a row. */
  readonly children: (row: Row) => ReactNode;
}

const USUAL_HEIGHT = 54;
/** So many rows beside those that are seen are there too, for the Tab key and for quick hands. */
const BESIDE = 12;

/** A table of any length: rows are there while they are near the window, and the next page is read before its end is seen. */
export function LongTable<Row extends { readonly id: string }>({ heads, rows, list, children }: LongTableProps<Row>) {
  const table = useRef<HTMLTableElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => setTop(table.current?.offsetTop ?? 0), []);
  const virtualizer = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => USUAL_HEIGHT,
    overscan: BESIDE,
    scrollMargin: top,
    getItemKey: (place) => rows[place]?.id ?? place,
  });
  const seen = virtualizer.getVirtualItems();
  const last = seen.at(-1);
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = list;
  const isNearEnd = last !== undefined && last.index >= rows.length - BESIDE;
  useEffect(() => {
    if (isNearEnd && hasNextPage && !isFetchingNextPage) fetchNextPage();
  }, [isNearEnd, hasNextPage, isFetchingNextPage, fetchNextPage]);
  return (
    <table className="plain long" ref={table} aria-rowcount={hasNextPage ? -1 : rows.length + 1}>
      <TableHead heads={heads} />
      <tbody>
        <Gap height={(seen[0]?.start ?? top) - top} />
        {seen.map(({ key, index }) => {
          const row = rows[index];
          return (
            row && (
              <tr key={key} data-index={index} ref={virtualizer.measureElement} aria-rowindex={index + 2}>
                {children(row)}
              </tr>
            )
          );
        })}
        <Gap height={last ? virtualizer.getTotalSize() - (last.end - top) : 0} />
      </tbody>
    </table>
  );
}

/** The room of rows that are not there. */
const Gap = ({ height }: { height: number }) =>
  height > 0 && (
    <tr aria-hidden className="gap">
      <td style={{ height }} />
    </tr>
  );
