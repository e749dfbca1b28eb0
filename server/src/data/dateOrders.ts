import { type DateReading, DateTally } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { ImportEntity } from '../db/entities/import.ts';
import { readRecords, toDelimiter } from './csv.ts';
import { readChunks, type StoredImport } from './repository/imports.ts';

/** What all cells of each column say of the order of their dates, as the file was read with one delimiter. */
export interface DateOrders {
  readonly delimiter: string;
  readonly readings: readonly DateReading[];
}

/** The readings of an uploaded file under a delimiter: those of the upload, or the file is read once more. */
export async function dateOrdersOf(
  tx: EntityManager,
  { view, orders }: StoredImport,
  delimiter: string,
): Promise<readonly DateReading[]> {
  if (orders.delimiter === delimiter) return orders.readings;
  const tally = new DateTally();
  let columns: number | null = null;
  for await (const { cells } of readRecords(readChunks(tx, view.id), toDelimiter(delimiter))) {
    if (columns === null) columns = cells.length;
    else tally.add(cells);
  }
  const fresh: DateOrders = { delimiter, readings: tally.readings(columns ?? 0) };
  await tx.getRepository(ImportEntity).update({ id: view.id }, { dateOrders: fresh });
  return fresh.readings;
}
