import { pipeline } from 'node:stream/promises';
import type { ProcessId } from '@ladder/core';
import { harmlessCell } from '@ladder/core';
import { stringify } from 'csv-stringify';
import type { Request, Response } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { readRecords, toDelimiter } from './csv.ts';
import { dateOrdersOf } from './dateOrders.ts';
import { guessedPreview, settledPreview } from './preview.ts';
import {
  findImports,
  type ImportSettings,
  type ImportView,
  readBadRows,
  readChunks,
  requireImport,
} from './repository/imports.ts';
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
  query: { fileName: string; process: ProcessId },
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

/** What lets the import run behind this request; its progress is read with `getImport`. */
export async function importToRun(tx: EntityManager, id: string, settings: ImportSettings): Promise<AskedWork> {
  const stored = await requireImport(tx, id);
  const { state, rowsTotal } = stored.view;
  if (state !== 'uploaded' && state !== 'failed') throw new Problem(409, 'This import has been started already.');
  const orders = await dateOrdersOf(tx, stored, settings.delimiter);
  requireGoodSettings(settings, await importSetting(tx, settings.process), orders);
  return { kind: 'import', subject: id, request: settings, total: rowsTotal ?? 0 };
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
