import type { imports, TypeOf } from '@ladder/contract';
import type { ProcessId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { ImportEntity, type StoredImportState } from '../../db/entities/import.ts';
import { type Connection, sql } from '../../db/sql.ts';
import { notFound, Problem } from '../../problems/problem.ts';
import type { DateOrders } from '../dateOrders.ts';

export type ImportView = TypeOf<typeof imports.summary>;
export type ImportSettings = TypeOf<typeof imports.settings>;

interface ImportRow
  extends Omit<ImportView, 'uploadedAt' | 'mayTakeBack' | 'rowsRead' | 'takenBack' | 'failure' | 'state'> {
  readonly stored: StoredImportState;
  readonly uploaded: Date;
  readonly process: ProcessId;
  readonly settings: ImportSettings | null;
  readonly orders: DateOrders;
  /** The newest work with it. */
  readonly kind: 'import' | 'take_back' | null;
  readonly working: 'running' | 'failed' | 'done' | 'cancelled' | null;
  readonly so_far: number | null;
  readonly failure: string | null;
}

const COLUMNS = `
  i.id, i.file_name as "fileName", i.state as stored, i.uploaded_at as uploaded, p.name as by, i.bytes::float8 as bytes, i.rows_total as "rowsTotal",
  i.created, i.updated, i.skipped, i.bad, i.process_id as process, i.settings, i.date_orders as orders,
  w.kind, w.state as working, w.done as so_far, w.problem->>'detail' as failure`;
const FROM = `imports i join people p on p.id = i.by_id left join lateral (
  select * from long_work l where l.subject = i.id::text order by l.place desc limit 1
) w on true`;

export interface StoredImport {
  readonly view: ImportView;
  readonly process: ProcessId;
  readonly settings: ImportSettings | null;
  /** What each column's cells say of the order of their dates. */
  readonly orders: DateOrders;
}

function toStored({
  stored,
  uploaded,
  process,
  settings,
  orders,
  kind,
  working,
  so_far,
  ...row
}: ImportRow): StoredImport {
  const state = stateOf(stored, kind, working);
  const view: ImportView = {
    ...row,
    state,
    uploadedAt: uploaded.toISOString(),
    rowsRead: stored === 'uploaded' ? (so_far ?? 0) : (row.rowsTotal ?? 0),
    takenBack: kind === 'take_back' ? (so_far ?? 0) : 0,
    mayTakeBack: state === 'done' && row.created + row.updated > 0 ? 'yes' : 'no',
  };
  return { view, process, settings, orders };
}

/** What stands of an import, or what is just being done with it. */
function stateOf(
  stored: ImportRow['stored'],
  kind: ImportRow['kind'],
  working: ImportRow['working'],
): ImportView['state'] {
  if (working === 'running') return kind === 'take_back' ? 'taking_back' : 'running';
  return stored === 'uploaded' && working === 'failed' ? 'failed' : stored;
}

async function findImport(connection: Connection, id: string): Promise<StoredImport | null> {
  const [row] = await sql<ImportRow>(connection, `select ${COLUMNS} from ${FROM} where i.id = :id`, { id });
  return row ? toStored(row) : null;
}

export async function findImports(
  connection: Connection,
  limit: number,
  cursor: readonly [string, string] | null,
): Promise<(StoredImport & { at: string })[]> {
  const rows = await sql<ImportRow & { at: string }>(
    connection,
    `select ${COLUMNS}, i.uploaded_at::text as at from ${FROM}
     where (:at::timestamptz is null or (i.uploaded_at, i.id) < (:at::timestamptz, :id::uuid)) order by i.uploaded_at desc, i.id desc limit :limit`,
    { limit, at: cursor?.[0], id: cursor?.[1] },
  );
  return rows.map(({ at, ...row }) => ({ ...toStored(row), at }));
}

export async function requireImport(connection: Connection, id: string): Promise<StoredImport> {
  const stored = await findImport(connection, id);
  if (!stored) throw notFound('import');
  return stored;
}

/** Locks an import that stands as it should before it is worked on: whatever else was begun with it meanwhile has ended. */
export async function lockImport(tx: EntityManager, id: string, expected: StoredImportState): Promise<StoredImport> {
  const row = await tx
    .getRepository(ImportEntity)
    .findOne({ where: { id, state: expected }, lock: { mode: 'for_no_key_update' } });
  if (!row) throw new Problem(409, 'This import is not as it was when this was asked for.');
  return requireImport(tx, id);
}

type Counts = Pick<ImportView, 'created' | 'updated' | 'skipped' | 'bad'>;

/** The import is done; of its file only the head is needed again, above the rows that are given back. */
export async function markImported(
  connection: Connection,
  id: string,
  settings: ImportSettings,
  counts: Counts,
): Promise<void> {
  await sql(
    connection,
    `update imports set state = 'done', settings = :settings, process_id = :process, created = :created, updated = :updated, skipped = :skipped, bad = :bad where id = :id`,
    { id, settings, process: settings.process, ...counts },
  );
  await sql(connection, `delete from import_chunks where import_id = :id and place > 0`, { id });
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
