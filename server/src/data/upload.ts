import { type FileHandle, open } from 'node:fs/promises';
import type { ProcessId } from '@ladder/core';
import { type DateReading, DateTally, type Delimiter, guessDelimiter } from '@ladder/core';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inLongWork } from '../context.ts';
import { ImportEntity } from '../db/entities/import.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { at } from '../db/sql.ts';
import { once } from '../http/idempotency.ts';
import { receiveFile } from '../http/receiveFile.ts';
import { reply } from '../http/reply.ts';
import { newId } from '../ids.ts';
import { notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { fileProblem, readRecords, requireText } from './csv.ts';
import { decodeHead } from './encoding.ts';
import { storeChunk } from './repository/imports.ts';

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
  process: ProcessId,
): Promise<Upload> {
  return receiveFile(request, MOST_BYTES, tooLarge, async ({ path, digest }) => {
    const now = context.clock.now();
    const { body } = await inLongWork(context, (tx) =>
      once(tx, { person, request, now, content: digest }, async () =>
        reply(await storeFile(tx, person, path, fileName, process, now)),
      ),
    );
    return body as Upload;
  });
}

const tooLarge = () => fileProblem(413, 'This file is larger than 64 MB. Split it, then upload the parts one by one.');

async function storeFile(
  tx: EntityManager,
  person: Person,
  path: string,
  fileName: string,
  process: ProcessId,
  now: number,
): Promise<Upload> {
  const id = newId(now);
  if (!(await tx.getRepository(ProcessEntity).existsBy({ id: process }))) throw notFound('process');
  const imports = tx.getRepository(ImportEntity);
  await imports.insert({
    id,
    fileName,
    processId: process,
    byId: person.id,
    state: 'uploaded',
    uploadedAt: at(now),
    dateOrders: { delimiter: ',', readings: [] },
  });
  const file = await open(path);
  try {
    const head = await firstBytes(file);
    requireText(head);
    const delimiter = guessDelimiter(decodeHead(head));
    const { bytes, rows, readings } = await storeChunks(tx, id, file, delimiter);
    if (rows < 1) throw fileProblem(422, 'This file has no rows under its first line, which names the columns.');
    await imports.update({ id }, { bytes: String(bytes), rowsTotal: rows, dateOrders: { delimiter, readings } });
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
