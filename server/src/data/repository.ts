import type { imports, TypeOf } from '@ladder/contract';
import { type Connection, sql } from '../db/sql.ts';
import type { DateOrders } from './dateOrders.ts';

export type ImportView = TypeOf<typeof imports.summary>;
export type ImportSettings = TypeOf<typeof imports.settings>;

interface ImportRow extends Omit<ImportView, 'uploadedAt' | 'mayTakeBack'> {
  readonly uploaded: Date;
  readonly process: string;
  readonly settings: ImportSettings | null;
  readonly orders: DateOrders;
}

const COLUMNS = `
  i.id, i.file_name as "fileName", i.state, i.uploaded_at as uploaded, p.name as by, i.bytes::float8 as bytes, i.rows_read as "rowsRead", i.rows_total as "rowsTotal",
  i.created, i.updated, i.skipped, i.bad, i.failure, i.taken_back as "takenBack", i.process_id as process, i.settings, i.date_orders as orders`;

export interface StoredImport {
  readonly view: ImportView;
  readonly process: string;
  readonly settings: ImportSettings | null;
  /** What each column's cells say of the order of their dates. */
  readonly orders: DateOrders;
}

function toStored({ uploaded, process, settings, orders, ...row }: ImportRow): StoredImport {
  const mayTakeBack = row.state === 'done' && row.created + row.updated > 0 ? 'yes' : 'no';
  return { view: { ...row, uploadedAt: uploaded.toISOString(), mayTakeBack }, process, settings, orders };
}

export async function findImport(connection: Connection, id: string): Promise<StoredImport | null> {
  const [row] = await sql<ImportRow>(
    connection,
    `select ${COLUMNS} from imports i join people p on p.id = i.by_id where i.id = :id`,
    { id },
  );
  return row ? toStored(row) : null;
}

export async function findImports(
  connection: Connection,
  limit: number,
  cursor: readonly [string, string] | null,
): Promise<(StoredImport & { at: string })[]> {
  const rows = await sql<ImportRow & { at: string }>(
    connection,
    `select ${COLUMNS}, i.uploaded_at::text as at from imports i join people p on p.id = i.by_id
     where (:at::timestamptz is null or (i.uploaded_at, i.id) < (:at::timestamptz, :id::uuid)) order by i.uploaded_at desc, i.id desc limit :limit`,
    { limit, at: cursor?.[0], id: cursor?.[1] },
  );
  return rows.map(({ at, ...row }) => ({ ...toStored(row), at }));
}

/** Takes the one lock under which an import is worked on, until the transaction ends; false where someone else has it. */
export async function lockImport(connection: Connection, id: string): Promise<boolean> {
  const [lock] = await sql<{ taken: boolean }>(
    connection,
    `select pg_try_advisory_xact_lock(hashtextextended(:id, 0)) as taken`,
    { id },
  );
  return lock?.taken ?? false;
}

/** The uploaded file, a stored piece at a time, so that it is never in memory whole. */
export async function* readChunks(connection: Connection, id: string): AsyncGenerator<Buffer> {
  for (let place = 0; ; place++) {
    const [row] = await sql<{ content: Buffer }>(
      connection,
      `select content from import_chunks where import_id = :id and place = :place`,
      { id, place },
    );
    if (!row) return;
    yield row.content;
  }
}

export const storeChunk = (connection: Connection, id: string, place: number, content: Buffer): Promise<unknown> =>
  sql(connection, `insert into import_chunks values (:id, :place, :content)`, { id, place, content });

export async function* readBadRows(
  connection: Connection,
  id: string,
): AsyncGenerator<{ cells: string[]; reason: string }> {
  for (let after = 0; ; ) {
    const rows = await sql<{ line: number; cells: string[]; reason: string }>(
      connection,
      `select line, cells, reason from import_bad_rows where import_id = :id and line > :after order by line limit 1000`,
      { id, after },
    );
    yield* rows;
    const last = rows.at(-1);
    if (!last) return;
    after = last.line;
  }
}
