import type { imports, TypeOf } from '@ladder/contract';
import { guessColumns, type ImportTerms, readRow, type Setting } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type CsvRecord, readRecords, toDelimiter } from './csv.ts';
import { type ImportSettings, readChunks } from './repository.ts';
import { fromColumns, importSetting, importTerms, toColumns } from './terms.ts';

type Preview = TypeOf<typeof imports.preview>;

const ROWS_SHOWN = 25;

async function firstRecords(tx: EntityManager, id: string, delimiter: string): Promise<CsvRecord[]> {
  const records: CsvRecord[] = [];
  for await (const record of readRecords(readChunks(tx, id), toDelimiter(delimiter))) {
    records.push(record);
    if (records.length > ROWS_SHOWN) break;
  }
  return records;
}

/** A first reading, with the columns guessed from their names and from what stands in them. */
export async function guessedPreview(
  tx: EntityManager,
  id: string,
  process: string,
  delimiter: string,
  now: number,
): Promise<Preview> {
  const setting = await importSetting(tx, process);
  const [head, ...rows] = await firstRecords(tx, id, delimiter);
  const fields = [...setting.catalogue.values()].filter(({ holder }) => holder === 'deal');
  const columns = guessColumns(
    head?.cells ?? [],
    rows.map(({ cells }) => cells),
    fields,
  );
  const settings: ImportSettings = {
    process,
    delimiter: toDelimiter(delimiter),
    columns: fromColumns(columns),
    known: 'skip',
    stage: setting.document.stages[0]?.id ?? '',
  };
  const terms = await importTerms(tx, columns, setting, now);
  return {
    headers: head?.cells ?? [],
    settings,
    rows: rows.map((row) => previewRow(row, terms)),
    problems: matchingProblems(settings, setting),
  };
}

/** The first rows as they would be read with these settings. */
export async function settledPreview(
  tx: EntityManager,
  id: string,
  settings: ImportSettings,
  now: number,
): Promise<Preview> {
  const setting = await importSetting(tx, settings.process);
  const [head, ...rows] = await firstRecords(tx, id, settings.delimiter);
  const padded = {
    ...settings,
    columns: (head?.cells ?? []).map(
      (_cell, place) => settings.columns[place] ?? { to: 'nothing' as const, column: null, field: null },
    ),
  };
  const terms = await importTerms(tx, toColumns(padded, setting), setting, now);
  return {
    headers: head?.cells ?? [],
    settings: padded,
    rows: rows.map((row) => previewRow(row, terms)),
    problems: [],
  };
}

function matchingProblems(settings: ImportSettings, setting: Setting): Preview['problems'] {
  try {
    toColumns(settings, setting);
    return [];
  } catch (error) {
    const { extras } = error as { extras?: { errors?: Preview['problems'] } };
    if (!extras?.errors) throw error;
    return extras.errors;
  }
}

function previewRow({ line, cells }: CsvRecord, terms: ImportTerms): Preview['rows'][number] {
  const read = readRow(cells, terms);
  const problems = read.ok ? [] : read.error;
  const at = (column: number | null): string | null =>
    problems.find((problem) => problem.column === column)?.detail ?? null;
  const width = Math.max(cells.length, terms.columns.length);
  return {
    line,
    problem:
      at(null) ??
      (read.ok && !read.value.name && !read.value.values.customer
        ? 'This row has neither a name nor a customer.'
        : null),
    cells: Array.from({ length: width }, (_none, column) => ({ text: cells[column] ?? '', problem: at(column) })),
  };
}
