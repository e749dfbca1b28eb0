import { BUILT_IN_FIELDS, type Catalogue, type Field } from '../facts/field.ts';
import type { FactValue, Values } from '../facts/value.ts';
import { foldText } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
import { failed, ok, type Result } from '../result.ts';
import { type Day, FIRST_DAY, isUsualDay } from '../time/day.ts';
import type { DateOrder } from './dateOrder.ts';
import { plainCell } from './harmlessCell.ts';
import type { ColumnTarget, DealColumn } from './importColumn.ts';
import { type CellTerms, readCell, readDate } from './readCell.ts';

/** A row of an import as it was read. Absent dates are null; a value per matched column that is filled. */
export interface ImportedRow {
  readonly externalId: string | null;
  readonly name: string | null;
  readonly stage: StageId | null;
  readonly created: Day | null;
  readonly enteredStage: Day | null;
  readonly lastActivity: Day | null;
  readonly values: Values;
}

/** What is wrong with a row, at the column where it stands; null where it concerns the whole row. */
export interface RowProblem {
  readonly column: number | null;
  readonly detail: string;
}

export interface ImportTerms extends Omit<CellTerms, 'order'> {
  readonly columns: readonly ColumnTarget[];
  readonly catalogue: Catalogue;
  readonly stages: readonly { readonly id: StageId; readonly name: string }[];
  /** The order in which each column writes its dates. */
  readonly orders: readonly (DateOrder | null)[];
  readonly today: Day;
}

/** No cell is longer, as no text is that a field holds. */
const LONGEST_CELL = 20_000;

/** Reads one record. Errors: every cell that cannot be read, all at once. */
export function readRow(cells: readonly string[], terms: ImportTerms): Result<ImportedRow, readonly RowProblem[]> {
  const problems: RowProblem[] = [];
  const deal: Partial<Record<DealColumn, string>> = {};
  const values: Record<string, FactValue> = {};
  if (cells.length > terms.columns.length)
    problems.push({
      column: null,
      detail: `This row has ${cells.length} cells; the first row has ${terms.columns.length}.`,
    });
  terms.columns.forEach((target, column) => {
    const text = plainCell((cells[column] ?? '').trim());
    const read = target.to === 'nothing' || text === '' ? null : readMatched(target, text, terms, column);
    if (read && !read.ok) problems.push({ column, detail: read.error });
    if (read?.ok && target.to === 'deal') deal[target.column] = String(read.value);
    if (read?.ok && target.to === 'field') values[target.field] = read.value;
  });
  const row = toRow(deal, values);
  const broken = problems.length > 0 ? [] : rowProblems(row, terms);
  return problems.length + broken.length > 0 ? failed([...problems, ...broken]) : ok(row);
}

function readMatched(
  target: Exclude<ColumnTarget, { to: 'nothing' }>,
  text: string,
  terms: ImportTerms,
  column: number,
): Result<FactValue, string> {
  const order = terms.orders[column] ?? null;
  if (text.length > LONGEST_CELL)
    return failed(`This may have at most ${LONGEST_CELL.toLocaleString('en')} characters.`);
  if (text.includes('\u0000')) return failed('This holds a character that cannot be stored.');
  return target.to === 'deal'
    ? readDealCell(target.column, text, terms, order)
    : readFieldCell(target.field, text, { ...terms, order });
}

function readDealCell(
  column: DealColumn,
  text: string,
  terms: ImportTerms,
  order: DateOrder | null,
): Result<FactValue, string> {
  if (column === 'external_id' || column === 'name')
    return text.length > 200 ? failed('This may have at most 200 characters.') : ok(text);
  if (column === 'stage') return readStage(text, terms);
  const day = readDate(text, order);
  if (!day.ok) return day;
  if (day.value > terms.today) return failed(`${text} lies in the future.`);
  return isUsualDay(day.value) ? day : failed(`This must not lie before ${FIRST_DAY}.`);
}

function readStage(text: string, { stages }: ImportTerms): Result<FactValue, string> {
  const stage = stages.find(({ id, name }) => id === text || foldText(name) === foldText(text));
  return stage
    ? ok(stage.id)
    : failed(`There is no stage “${text}”. The stages are: ${stages.map(({ name }) => name).join(', ')}.`);
}

function readFieldCell(id: string, text: string, terms: ImportTerms & CellTerms): Result<FactValue, string> {
  const field: Field | undefined = terms.catalogue.get(id) ?? BUILT_IN_FIELDS.find((candidate) => candidate.id === id);
  return field ? readCell(field, text, terms) : failed('This field is no longer in the catalogue.');
}

const toRow = (deal: Partial<Record<DealColumn, string>>, values: Values): ImportedRow => ({
  externalId: deal.external_id ?? null,
  name: deal.name ?? null,
  // What `readStage` gave is a stage's id.
  stage: (deal.stage ?? null) as StageId | null,
  created: deal.created ?? null,
  enteredStage: deal.entered_stage ?? null,
  lastActivity: deal.last_activity ?? null,
  values,
});

function rowProblems(row: ImportedRow, terms: ImportTerms): readonly RowProblem[] {
  const columnOf = (name: DealColumn): number | null => {
    const place = terms.columns.findIndex((target) => target.to === 'deal' && target.column === name);
    return place < 0 ? null : place;
  };
  const early = row.created !== null && row.enteredStage !== null && row.enteredStage < row.created;
  return early
    ? [{ column: columnOf('entered_stage'), detail: 'The deal entered its stage before it was created.' }]
    : [];
}
