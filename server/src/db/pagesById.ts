const BEFORE_ALL = '00000000-0000-0000-0000-000000000000';

/**
 * Goes through rows in the order of an id, a page at a time, until there are no more: `read` gives the page behind an id, and
 * `idOf` the id that a row stands at.
 */
export async function* pagesById<Row>(
  read: (after: string) => Promise<readonly Row[]>,
  idOf: (row: Row) => string,
): AsyncGenerator<readonly Row[]> {
  for (let after = BEFORE_ALL; ; ) {
    const rows = await read(after);
    const last = rows.at(-1);
    if (last === undefined) return;
    yield rows;
    after = idOf(last);
  }
}
