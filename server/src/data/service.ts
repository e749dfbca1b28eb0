import { pipeline } from 'node:stream/promises';
import { harmlessCell } from '@ladder/core';
import { stringify } from 'csv-stringify';
import type { Request, Response } from 'express';
import { type Context, inCommand, inTransaction } from '../context.ts';
import { IMPORT_QUEUE } from '../db/queues.ts';
import { type Connection, sql } from '../db/sql.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { readRecords, toDelimiter } from './csv.ts';
import { dateOrdersOf } from './dateOrders.ts';
import { guessedPreview, settledPreview } from './preview.ts';
import {
  findImport,
  findImports,
  type ImportSettings,
  type ImportView,
  readBadRows,
  readChunks,
  type StoredImport,
} from './repository.ts';
import { importSetting, requireGoodSettings } from './terms.ts';
import { uploadFile } from './upload.ts';

export async function listImports(context: Context, query: { after?: string; limit?: number }): Promise<unknown> {
  const limit = query.limit ?? DEFAULT_LIMIT;
  const rows = await findImports(context.dataSource, limit + 1, readCursor(query.after, ['instant', 'id']));
  return toPage(
    rows,
    limit,
    ({ at, view }) => [at, view.id],
    ({ view }) => view,
  );
}

export async function getImport(context: Context, id: string): Promise<ImportView> {
  return (await requireImport(context.dataSource, id)).view;
}

/** Takes an uploaded file in, and reads its first rows with guessed columns. */
export async function upload(
  context: Context,
  person: Person,
  request: Request,
  query: { fileName: string; process: string },
): Promise<unknown> {
  await inTransaction(context, (tx) => importSetting(tx, query.process));
  const { id, delimiter } = await uploadFile(context, person, request, query.fileName, query.process);
  return inTransaction(context, async (tx) => {
    const stored = await requireImport(tx, id);
    return { import: stored.view, preview: await guessedPreview(tx, stored, delimiter, context.clock.now()) };
  });
}

export async function previewImport(context: Context, id: string, settings: ImportSettings): Promise<unknown> {
  return inTransaction(context, async (tx) =>
    settledPreview(tx, await requireImport(tx, id), settings, context.clock.now()),
  );
}

async function requireImport(connection: Connection, id: string): Promise<StoredImport> {
  const stored = await findImport(connection, id);
  if (!stored) throw notFound('import');
  return stored;
}

/** Lets the import run behind this request; its progress is read with `getImport`. */
export async function startImport(context: Context, id: string, settings: ImportSettings): Promise<ImportView> {
  await inCommand(context, async (tx) => {
    const orders = await dateOrdersOf(tx, await requireImport(tx, id), settings.delimiter);
    requireGoodSettings(settings, await importSetting(tx, settings.process), orders);
    const started = await sql(
      tx,
      `update imports set state = 'running', settings = :settings, process_id = :process, rows_read = 0, failure = null where id = :id and state in ('uploaded', 'failed') returning id`,
      { id, settings, process: settings.process },
    );
    if (started.length === 0) throw new Problem(409, 'This import has been started already.');
  });
  await context.wake(IMPORT_QUEUE, { id });
  return getImport(context, id);
}

/** Sends the rows that were not imported as CSV, with the reason in a last column. */
export async function sendBadRows(context: Context, id: string, response: Response): Promise<void> {
  const stored = await requireImport(context.dataSource, id);
  const delimiter = toDelimiter(stored.settings?.delimiter ?? ',');
  // Named .csv whatever the file was called, for the type of what is sent follows from the name.
  response.status(200).attachment(`not imported, ${stored.view.fileName.replace(/\.[^.]*$/, '')}.csv`);
  const rows = async function* (): AsyncGenerator<string[]> {
    const [head] = await firstRecord(context, id, delimiter);
    const width = head?.length ?? 0;
    yield [...(head ?? []), 'Why it was not imported'].map(harmlessCell);
    for await (const { cells, reason } of readBadRows(context.dataSource, id))
      yield [
        ...Array.from({ length: Math.max(width, cells.length) }, (_none, place) => cells[place] ?? ''),
        reason,
      ].map(harmlessCell);
  };
  await pipeline(rows(), stringify({ delimiter, record_delimiter: 'windows' }), response);
}

async function firstRecord(
  context: Context,
  id: string,
  delimiter: ReturnType<typeof toDelimiter>,
): Promise<readonly (readonly string[])[]> {
  for await (const { cells } of readRecords(readChunks(context.dataSource, id), delimiter)) return [cells];
  return [];
}
