import { DateTally, type Delimiter, guessDelimiter } from '@ladder/core';
import type { Request } from 'express';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { at, sql } from '../db/sql.ts';
import { notFound } from '../http/problem.ts';
import { newId } from '../ids.ts';
import type { Person } from '../people/person.ts';
import { fileProblem, readRecords, requireText } from './csv.ts';
import { decodeHead } from './encoding.ts';
import { storeChunk } from './repository.ts';

const MOST_BYTES = 64 * 1024 * 1024;
const CHUNK_BYTES = 256 * 1024;
const KEPT_MS = 24 * 3_600_000;

export interface Upload {
  readonly id: string;
  readonly delimiter: Delimiter;
}

/** Stores an uploaded CSV in pieces while its records are counted, so that a file that cannot be read is refused at once. */
export async function uploadFile(
  context: Context,
  person: Person,
  request: Request,
  fileName: string,
  process: string,
): Promise<Upload> {
  if (Number(request.get('Content-Length') ?? 0) > MOST_BYTES) throw tooLarge();
  const now = context.clock.now();
  const id = newId(now);
  return inTransaction(context, async (tx) => {
    const known = await sql(tx, `select id from processes where id = :process`, { process });
    if (known.length === 0) throw notFound('process');
    await forgetUnused(tx, person, now);
    await sql(
      tx,
      `insert into imports (id, file_name, process_id, by_id, state, uploaded_at) values (:id, :fileName, :process, :by, 'uploaded', :now)`,
      {
        id,
        fileName,
        process,
        by: person.id,
        now: at(now),
      },
    );
    const chunks = inChunks(request);
    const first = (await chunks.next()).value ?? Buffer.alloc(0);
    requireText(first);
    const delimiter = guessDelimiter(decodeHead(first));
    const stored = { bytes: 0 };
    const dates = new DateTally();
    let [records, columns] = [0, 0];
    for await (const { cells } of readRecords(storing(tx, id, first, chunks, stored), delimiter)) {
      if (records++ === 0) columns = cells.length;
      else dates.add(cells);
    }
    if (records < 2) throw fileProblem(422, 'This file has no rows under its first line, which names the columns.');
    await sql(tx, `update imports set bytes = :bytes, rows_total = :rows, date_orders = :orders where id = :id`, {
      id,
      bytes: stored.bytes,
      rows: records - 1,
      orders: { delimiter, readings: dates.readings(columns) },
    });
    return { id, delimiter };
  });
}

/** Files that were uploaded and never imported are kept for a day. */
async function forgetUnused(tx: EntityManager, person: Person, now: number): Promise<void> {
  const unused = `select id from imports where by_id = :by and state = 'uploaded' and uploaded_at < :before`;
  const parameters = { by: person.id, before: at(now - KEPT_MS) };
  await sql(tx, `delete from import_chunks where import_id in (${unused})`, parameters);
  await sql(tx, `delete from imports where id in (${unused})`, parameters);
}

const tooLarge = () => fileProblem(413, 'This file is larger than 64 MB. Split it, then upload the parts one by one.');

/** The body in pieces of one size. */
async function* inChunks(request: Request): AsyncGenerator<Buffer, undefined> {
  let parts: Buffer[] = [];
  let size = 0;
  let total = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    parts.push(part);
    size += part.length;
    total += part.length;
    if (total > MOST_BYTES) throw tooLarge();
    if (size >= CHUNK_BYTES) {
      yield Buffer.concat(parts);
      parts = [];
      size = 0;
    }
  }
  if (size > 0) yield Buffer.concat(parts);
  return undefined;
}

async function* storing(
  tx: EntityManager,
  id: string,
  first: Buffer,
  rest: AsyncIterable<Buffer>,
  stored: { bytes: number },
): AsyncGenerator<Buffer> {
  let place = 0;
  const store = async (chunk: Buffer): Promise<Buffer> => {
    await storeChunk(tx, id, place++, chunk);
    stored.bytes += chunk.length;
    return chunk;
  };
  yield await store(first);
  for await (const chunk of rest) yield await store(chunk);
}
