import type { ReactNode } from 'react';

interface PlainTableProps {
  /** What the columns are called; one of numbers ends in `#`. */
  readonly heads: readonly string[];
  /** Its rows. */
  readonly children: ReactNode;
}

/** A table of rows under named columns. */
export function PlainTable({ heads, children }: PlainTableProps) {
  return (
    <table className="plain">
      <TableHead heads={heads} />
      <tbody>{children}</tbody>
    </table>
  );
}

/** A column's name, without the sign of numbers. */
export const headName = (head: string): string => head.replace(/#$/, '');

export const TableHead = ({ heads }: Pick<PlainTableProps, 'heads'>) => (
  <thead>
    <tr>
      {heads.map((head) => (
        <th key={head} {...(head.endsWith('#') ? { className: 'num' } : {})}>
          {headName(head)}
        </th>
      ))}
    </tr>
  </thead>
);
