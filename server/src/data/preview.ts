import type { imports, TypeOf } from '@ladder/contract';
import { firstStage, guessColumns, type ImportTerms, readRow } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type CsvRecord, readRecords, toDelimiter } from './csv.ts';
import { dateOrdersOf } from './dateOrders.ts';
import { type ImportSettings, readChunks, type StoredImport } from './repository/imports.ts';
import { fromColumns, importSetting, importTerms, settingsProblems } from './terms.ts';

type Preview = TypeOf<typeof imports.preview>;

const ROWS_SHOWN = 25;
/** So much of a cell is shown: enough to recognise it by. */
const CELL_SHOWN = 300;

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
  stored: StoredImport,
  delimiter: string,
  now: number,
): Promise<Preview> {
  const setting = await importSetting(tx, stored.process);
  const records = await firstRecords(tx, stored.view.id, delimiter);
  const [head, ...rows] = records;
  const fields = [...setting.catalogue.values()].filter(({ holder }) => holder === 'deal');
  const columns = guessColumns(
    head?.cells ?? [],
    rows.map(({ cells }) => cells),
    fields,
  );
  const settings: ImportSettings = {
    process: stored.process,
    delimiter: toDelimiter(delimiter),
    columns: fromColumns(columns),
    known: 'skip',
    stage: firstStage(setting.document),
  };
  return previewOf(tx, stored, settings, records, now);
}

/** The first rows as they would be read with these settings. */
export async function settledPreview(
  tx: EntityManager,
  stored: StoredImport,
  settings: ImportSettings,
  now: number,
): Promise<Preview> {
  const records = await firstRecords(tx, stored.view.id, settings.delimiter);
  const width = records[0]?.cells.length ?? 0;
  const columns = Array.from(
    { length: width },
    (_none, place) => settings.columns[place] ?? { to: 'nothing' as const, column: null, field: null },
  );
  return previewOf(tx, stored, { ...settings, columns }, records, now);
}

async function previewOf(
  tx: EntityManager,
  stored: StoredImport,
  settings: ImportSettings,
  [head, ...rows]: readonly CsvRecord[],
  now: number,
): Promise<Preview> {
  const setting = await importSetting(tx, settings.process);
  const orders = await dateOrdersOf(tx, stored, settings.delimiter);
  const terms = await importTerms(tx, settings, setting, orders, now);
  return {
    headers: (head?.cells ?? []).map(shown),
    dateOrders: settings.columns.map((_column, place) => orders[place] ?? 'none'),
    settings,
    rows: rows.map((row) => previewRow(row, terms)),
    problems: settingsProblems(settings, setting, orders),
  };
}

const shown = (text: string): string => (text.length > CELL_SHOWN ? `${text.slice(0, CELL_SHOWN)}…` : text);

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
    cells: Array.from({ length: width }, (_none, column) => ({
      text: shown(cells[column] ?? ''),
      problem: at(column),
    })),
  };
}
