import { createWriteStream } from 'node:fs';
import { type FileHandle, mkdtemp, open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { type DateReading, DateTally, type Delimiter, guessDelimiter } from '@ladder/core';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inLongWork } from '../context.ts';
import { at, sql } from '../db/sql.ts';
import { newId } from '../ids.ts';
import { notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { fileProblem, readRecords, requireText } from './csv.ts';
import { decodeHead } from './encoding.ts';
import { storeChunk } from './repository.ts';

const MOST_BYTES = 64 * 1024 * 1024;
const CHUNK_BYTES = 256 * 1024;

export interface Upload {
  readonly id: string;
  readonly delimiter: Delimiter;
}

/**
 * Stores an uploaded CSV in pieces while its records are counted, so that a file that cannot be read is refused at once. The
 * body is read onto the disk first: however slowly it comes, it holds no connection to the database.
 */
export async function uploadFile(
  context: Context,
  person: Person,
  request: Request,
  fileName: string,
  process: string,
): Promise<Upload> {
  if (Number(request.get('Content-Length') ?? 0) > MOST_BYTES) throw tooLarge();
  const folder = await mkdtemp(join(tmpdir(), 'ladder-upload-'));
  try {
    const path = join(folder, 'file');
    await pipeline(request, bounded, createWriteStream(path));
    return await inLongWork(context, (tx) => storeFile(context, tx, person, path, fileName, process));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function* bounded(body: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let total = 0;
  for await (const part of body) {
    total += part.length;
    if (total > MOST_BYTES) throw tooLarge();
    yield part;
  }
}

const tooLarge = () => fileProblem(413, 'This file is larger than 64 MB. Split it, then upload the parts one by one.');

async function storeFile(
  context: Context,
  tx: EntityManager,
  person: Person,
  path: string,
  fileName: string,
  process: string,
): Promise<Upload> {
  const now = context.clock.now();
  const id = newId(now);
  const known = await sql(tx, `select id from processes where id = :process`, { process });
  if (known.length === 0) throw notFound('process');
  await sql(
    tx,
    `insert into imports (id, file_name, process_id, by_id, state, uploaded_at) values (:id, :fileName, :process, :by, 'uploaded', :now)`,
    { id, fileName, process, by: person.id, now: at(now) },
  );
  const file = await open(path);
  try {
    const head = await firstBytes(file);
    requireText(head);
    const delimiter = guessDelimiter(decodeHead(head));
    const { bytes, rows, readings } = await storeChunks(tx, id, file, delimiter);
    if (rows < 1) throw fileProblem(422, 'This file has no rows under its first line, which names the columns.');
    await sql(tx, `update imports set bytes = :bytes, rows_total = :rows, date_orders = :orders where id = :id`, {
      id,
      bytes,
      rows,
      orders: { delimiter, readings },
    });
    return { id, delimiter };
  } finally {
    await file.close();
  }
}

async function firstBytes(file: FileHandle): Promise<Buffer> {
  const { buffer, bytesRead } = await file.read(Buffer.alloc(CHUNK_BYTES), 0, CHUNK_BYTES, 0);
  return buffer.subarray(0, bytesRead);
}

async function storeChunks(
  tx: EntityManager,
  id: string,
  file: FileHandle,
  delimiter: Delimiter,
): Promise<{ bytes: number; rows: number; readings: readonly DateReading[] }> {
  const dates = new DateTally();
  let [bytes, place, records, columns] = [0, 0, 0, 0];
  const storing = async function* (): AsyncGenerator<Buffer> {
    for await (const chunk of file.createReadStream({ start: 0, highWaterMark: CHUNK_BYTES, autoClose: false })) {
      await storeChunk(tx, id, place++, chunk);
      bytes += chunk.length;
      yield chunk;
    }
  };
  for await (const { cells } of readRecords(storing(), delimiter)) {
    if (records++ === 0) columns = cells.length;
    else dates.add(cells);
  }
  return { bytes, rows: records - 1, readings: dates.readings(columns) };
}
