import { once } from 'node:events';
import { DELIMITERS, type Delimiter } from '@ladder/core';
import { CsvError, parse } from 'csv-parse';
import { Problem } from '../problems/problem.ts';
import { encodingOf, looksLikeUtf16 } from './encoding.ts';
import { QuoteWatch } from './quotes.ts';

/** One record with the line on which it begins. */
export interface CsvRecord {
  readonly line: number;
  readonly cells: readonly string[];
}

const MOST_CELLS_BYTES = 1_000_000;

/** More columns than anyone matches; a file with more is refused at its first row that has them. */
const MOST_COLUMNS = 500;

/**
 * Records of a CSV text (RFC 4180) as they are read: UTF-8, or UTF-16 with its mark; blank lines are passed over, quoted
 * cells may hold line breaks, and each line may end in its own way.
 */
export async function* readRecords(
  bytes: AsyncIterable<Buffer> | Iterable<Buffer>,
  delimiter: Delimiter,
): AsyncGenerator<CsvRecord> {
  const parser = parse({
    delimiter,
    relax_column_count: true,
    skip_empty_lines: true,
    info: true,
    record_delimiter: ['\r\n', '\n', '\r'],
    max_record_size: MOST_CELLS_BYTES,
  });
  const quotes = new QuoteWatch();
  const feeding = feed(bytes, parser, quotes);
  let passed = 0;
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: string[]; info: { empty_lines: number } }>) {
      const line = passed + info.empty_lines + 1;
      if (record.length > MOST_COLUMNS)
        throw fileProblem(422, `Line ${line} has ${record.length} columns; a file may have at most ${MOST_COLUMNS}.`);
      yield { line, cells: record };
      passed += 1 + breaksIn(record);
    }
    await feeding;
  } catch (error) {
    throw error instanceof CsvError ? csvProblem(error, quotes) : error;
  } finally {
    parser.destroy();
    await feeding.catch(() => undefined);
  }
}

/** Line breaks inside quoted cells; the parser's own count takes CRLF there for two. */
const breaksIn = (cells: readonly string[]): number =>
  cells.reduce((sum, cell) => sum + (cell.match(/\r\n|\n|\r/g)?.length ?? 0), 0);

async function feed(
  bytes: AsyncIterable<Buffer> | Iterable<Buffer>,
  parser: ReturnType<typeof parse>,
  quotes: QuoteWatch,
): Promise<void> {
  let decoder: InstanceType<typeof TextDecoder> | null = null;
  const closed = new Promise((resolve) => parser.once('close', resolve));
  const write = async (text: string): Promise<void> => {
    quotes.watch(text);
    if (!parser.write(text)) await Promise.race([once(parser, 'drain'), closed]);
  };
  try {
    for await (const chunk of bytes) {
      if (parser.destroyed) return;
      decoder ??= new TextDecoder(encodingOf(chunk), { fatal: true });
      await write(decoder.decode(chunk, { stream: true }));
    }
    if (decoder) await write(decoder.decode());
    parser.end();
  } catch (error) {
    parser.destroy(error instanceof TypeError ? encodingProblem(decoder?.encoding ?? 'utf-8') : (error as Error));
  }
}

const encodingProblem = (encoding: string): Problem =>
  fileProblem(
    422,
    `This file is not written in ${encoding.toUpperCase()}. Save it as “CSV UTF-8”, then upload it again.`,
  );

function csvProblem(error: CsvError, quotes: QuoteWatch): Problem {
  const line = typeof error.lines === 'number' ? error.lines : null;
  if (error.code === 'CSV_QUOTE_NOT_CLOSED')
    return fileProblem(422, `The quote that is opened on line ${quotes.openSince ?? line ?? '?'} is never closed.`);
  if (error.code === 'CSV_MAX_RECORD_SIZE')
    return fileProblem(
      422,
      `A row${line === null ? '' : ` at line ${line}`} is longer than a million characters. A quote may have been left open.`,
    );
  return fileProblem(
    422,
    `Line ${line ?? '?'} cannot be read as CSV: a quote stands inside a cell that is not quoted.`,
  );
}

/** Refuses what is no text at all, such as a picture: told by its first bytes. */
export function requireText(head: Buffer): void {
  if (head.length === 0) throw fileProblem(422, 'This file is empty.');
  if (encodingOf(head) !== 'utf-8') return;
  if (looksLikeUtf16(head))
    throw fileProblem(
      415,
      'This file looks like UTF-16 without its mark. Save it as “CSV UTF-8”, then upload it again.',
    );
  if (head.includes(0))
    throw fileProblem(415, 'This is not a text file. Export the list as CSV, then upload it again.');
}

/** A problem with the uploaded file itself. */
export const fileProblem = (status: number, detail: string): Problem =>
  new Problem(status, detail, { errors: [{ pointer: '/file', detail }] });

/** The delimiter as the contract names it. */
export const toDelimiter = (text: string): Delimiter => DELIMITERS.find((delimiter) => delimiter === text) ?? ',';
