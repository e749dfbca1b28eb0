import { once } from 'node:events';
import { DELIMITERS, type Delimiter } from '@ladder/core';
import { CsvError, parse } from 'csv-parse';
import { Problem } from '../http/problem.ts';

/** One record with the line on which it begins. */
export interface CsvRecord {
  readonly line: number;
  readonly cells: readonly string[];
}

const MOST_CELLS_BYTES = 1_000_000;

/** Records of a CSV text (RFC 4180) as they are read: a BOM is dropped, blank lines are passed over, quoted cells may hold line breaks. */
export async function* readRecords(
  bytes: AsyncIterable<Buffer> | Iterable<Buffer>,
  delimiter: Delimiter,
): AsyncGenerator<CsvRecord> {
  const parser = parse({
    delimiter,
    bom: true,
    relax_column_count: true,
    skip_empty_lines: true,
    info: true,
    max_record_size: MOST_CELLS_BYTES,
  });
  const feeding = feed(bytes, parser);
  let passed = 0;
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: string[]; info: { empty_lines: number } }>) {
      yield { line: passed + info.empty_lines + 1, cells: record };
      passed += 1 + breaksIn(record);
    }
    await feeding;
  } catch (error) {
    throw error instanceof CsvError ? csvProblem(error) : error;
  } finally {
    parser.destroy();
    await feeding.catch(() => undefined);
  }
}

/** Line breaks inside quoted cells; the parser's own count takes CRLF there for two. */
const breaksIn = (cells: readonly string[]): number =>
  cells.reduce((sum, cell) => sum + (cell.match(/\r\n|\n|\r/g)?.length ?? 0), 0);

async function feed(bytes: AsyncIterable<Buffer> | Iterable<Buffer>, parser: ReturnType<typeof parse>): Promise<void> {
  const decoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
  const closed = new Promise((resolve) => parser.once('close', resolve));
  try {
    for await (const chunk of bytes) {
      if (parser.destroyed) return;
      if (!parser.write(decoder.decode(chunk, { stream: true }))) await Promise.race([once(parser, 'drain'), closed]);
    }
    parser.end(decoder.decode());
  } catch (error) {
    const problem = new Problem(
      422,
      'This file is not written in UTF-8. Save it as “CSV UTF-8”, then upload it again.',
    );
    parser.destroy(error instanceof TypeError ? problem : (error as Error));
  }
}

function csvProblem(error: CsvError): Problem {
  const line = typeof error.lines === 'number' ? error.lines : null;
  const detail =
    error.code === 'CSV_QUOTE_NOT_CLOSED'
      ? `A quote that was opened${line === null ? '' : ` on or before line ${line}`} is never closed.`
      : error.code === 'CSV_MAX_RECORD_SIZE'
        ? `A row${line === null ? '' : ` at line ${line}`} is longer than a million characters. A quote may have been left open.`
        : `Line ${line ?? '?'} cannot be read as CSV: a quote stands inside a cell that is not quoted.`;
  return new Problem(422, detail, { errors: [{ pointer: '/file', detail }] });
}

/** Refuses what is no text at all, such as a picture: told by its first bytes. */
export function requireText(head: Buffer): void {
  if (head.length === 0) throw fileProblem(422, 'This file is empty.');
  if (head.includes(0))
    throw fileProblem(415, 'This is not a text file. Export the list as CSV, then upload it again.');
}

/** A problem with the uploaded file itself. */
export const fileProblem = (status: number, detail: string): Problem =>
  new Problem(status, detail, { errors: [{ pointer: '/file', detail }] });

/** The delimiter as the contract names it. */
export const toDelimiter = (text: string): Delimiter => DELIMITERS.find((delimiter) => delimiter === text) ?? ',';
