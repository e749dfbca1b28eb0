import type { ReactNode } from 'react';
import { Button } from 'react-bootstrap';
import { downloadCsv } from '../../parts/downloadCsv.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { headName } from '../../parts/PlainTable.tsx';
import { ShowMore, type ShowMoreProps } from '../../parts/ShowMore.tsx';
import { MOST_IN_FILE } from './complianceApi.ts';

interface Page<Row> {
  readonly items: readonly Row[];
  readonly next: string | null;
}

type Cells = readonly (string | number | null)[];

interface WorkListProps<Row> {
  readonly title: string;
  /** Beside the title, from the rows that are shown and whether there are more. */
  readonly note: (rows: readonly Row[], hasMore: boolean) => string;
  /** How it is narrowed, where it is. */
  readonly narrowed?: ReactNode;
  readonly id?: string;
  readonly list: ShowMoreProps['list'] & {
    /** Never the rows of another choice under this one's title. */
    readonly currentData?: { readonly pages: readonly Page<Row>[] } | undefined;
    readonly error?: unknown;
  };
  /** All of it, as a file. */
  readonly file: {
    readonly name: string;
    readonly heads: readonly string[];
    readonly cellsOf: (row: Row) => Cells;
    readonly read: () => Promise<{ readonly data?: Page<Row> }>;
    readonly state: {
      readonly isFetching: boolean;
      readonly error?: unknown;
      readonly data?: Page<Row> | undefined;
    };
  };
  /** The table of the rows that are shown. */
  readonly children: (rows: readonly Row[]) => ReactNode;
}

/** A list of the page on steps, read as far as one looks; the same as a file has all of it. */
export function WorkList<Row>({ title, note, narrowed, id, list, file, children }: WorkListProps<Row>) {
  const { currentData: data, error } = list;
  const rows = data?.pages.flatMap(({ items }) => items) ?? [];
  return (
    <section id={id} aria-label={title}>
      <header>
        <h2>{title}</h2>
        {data && <span className="muted small">{note(rows, list.hasNextPage)}</span>}
        {narrowed}
        {rows.length > 0 && (
          <Button
            variant="link"
            aria-label={`${title} as CSV`}
            disabled={file.state.isFetching}
            onClick={async () => {
              const answer = await file.read();
              if (answer.data)
                downloadCsv(`${file.name}.csv`, [file.heads.map(headName), ...answer.data.items.map(file.cellsOf)]);
            }}
          >
            {file.state.isFetching ? 'Reading…' : 'As CSV'}
          </Button>
        )}
      </header>
      {!data && !error && <Loading />}
      <ErrorNotice error={error ?? file.state.error} />
      {file.state.data?.next && (
        <p className="muted" role="status">
          The file has the first {MOST_IN_FILE.toLocaleString('en-GB')} of them. Narrow the list for the others.
        </p>
      )}
      {data && rows.length === 0 && <p className="muted">Nothing here.</p>}
      {rows.length > 0 && children(rows)}
      <ShowMore list={list} />
    </section>
  );
}
