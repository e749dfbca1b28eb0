import type { DataSource } from 'typeorm';
import { type Connection, sql } from './sql.ts';
import type { Work } from './transactions.ts';

/* What one transaction sees, for another to see: a thread reads on with the eyes of whoever asked it. */

/** The name of what the transaction sees, as long as it is open. */
export async function exportSnapshot(tx: Connection): Promise<string> {
  const [row] = await sql<{ snapshot: string }>(tx, 'select pg_export_snapshot() as snapshot', {});
  if (!row) throw new Error('The database exported no snapshot');
  return row.snapshot;
}

const NAME = /^[0-9A-F-]+$/;

/** A transaction that sees what the one that exported this sees. */
export const inSnapshotOf = <T>(source: DataSource, snapshot: string, work: Work<T>): Promise<T> =>
  source.transaction('REPEATABLE READ', async (tx) => {
    // The statement takes no parameters.
    if (!NAME.test(snapshot)) throw new Error('The snapshot has no name that the database gives');
    await sql(tx, `set transaction snapshot '${snapshot}'`, {});
    return work(tx);
  });
