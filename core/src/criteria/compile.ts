import type { Catalogue } from '../facts/field.ts';
import { type FactValue, foldText } from '../facts/value.ts';
import { dayFromNumber } from '../time/day.ts';
import { type Comparison, type Condition, type Criterion, isGroup, type Operand, type Term } from './criterion.ts';
import type { Facts } from './facts.ts';
import { type Kleene, not } from './kleene.ts';
import { type ComparableKind, comparableKind, compareValues, termValue } from './terms.ts';

/** A criterion made ready to judge many deals: the same answer as `evaluate`, without the explanation. */
export type CompiledCriterion = (facts: Facts) => Kleene;

/** A deal's facts with the fields that are read laid out in columns, absent and empty ones as null. */
export interface Row {
  readonly cells: FactValue[];
  facts: Facts;
}

/** A test over a row; several may share one row, so that each field is looked up once a deal. */
export type RowTest = (row: Row) => Kleene;

/** The columns of a row: fields get theirs as they are first asked for. */
export class Columns {
  private readonly fields: string[] = [];

  /** The column of a field. */
  of(field: string): number {
    const known = this.fields.indexOf(field);
    return known >= 0 ? known : this.fields.push(field) - 1;
  }

  /**
   * Makes a reader that lays a deal's facts out. It gives the same row again and again: looking a field up in an
   * object of which any key may be missing costs far more than judging it, and so would a new row for each deal.
   */
  reader(): (facts: Facts) => Row {
    const fields = [...this.fields];
    const cells: FactValue[] = fields.map(() => null);
    const row: Row = { cells, facts: undefined as unknown as Facts };
    return (facts) => {
      const { values } = facts;
      for (let column = 0; column < fields.length; column++) {
        const value = values[fields[column] as string];
        cells[column] =
          value === undefined || value === '' || (Array.isArray(value) && value.length === 0) ? null : value;
      }
      row.facts = facts;
      return row;
    };
  }
}

const UNKNOWN: RowTest = () => null;

/** Compiles the tree to closures over the catalogue's types; a leaf whose field is gone is always unknown. */
export function compile(criterion: Criterion, catalogue: Catalogue): CompiledCriterion {
  const columns = new Columns();
  const test = compileTest(criterion, catalogue, columns);
  const read = columns.reader();
  return (facts) => test(read(facts));
}

/** The same over a row whose columns others use too. */
export function compileTest(criterion: Criterion, catalogue: Catalogue, columns: Columns): RowTest {
  if (!isGroup(criterion)) return compileLeaf(criterion, catalogue, columns);
  if (criterion.kind === 'not') {
    const part = compileTest(criterion.of, catalogue, columns);
    return (row) => not(part(row));
  }
  const parts = criterion.of.map((part) => compileTest(part, catalogue, columns));
  return criterion.kind === 'all' ? all(parts) : any(parts);
}

function all(parts: readonly RowTest[]): RowTest {
  return (row) => {
    let result: Kleene = true;
    for (let place = 0; place < parts.length; place++) {
      const truth = (parts[place] as RowTest)(row);
      if (truth === false) return false;
      if (truth === null) result = null;
    }
    return result;
  };
}

function any(parts: readonly RowTest[]): RowTest {
  return (row) => {
    let result: Kleene = false;
    for (let place = 0; place < parts.length; place++) {
      const truth = (parts[place] as RowTest)(row);
      if (truth === true) return true;
      if (truth === null) result = null;
    }
    return result;
  };
}

function compileLeaf(condition: Condition, catalogue: Catalogue, columns: Columns): RowTest {
  const kind = comparableKind(condition.left, catalogue);
  if (kind === null) return UNKNOWN;
  switch (condition.kind) {
    case 'set':
      return compileIsSet(columns, condition.left);
    case 'unset': {
      const isSet = compileIsSet(columns, condition.left);
      return (row) => !isSet(row);
    }
    case 'between':
      return compileBetween(columns, kind, condition);
    case 'one_of':
      return compileOneOf(columns, kind, condition.left, condition.values);
    case 'none_of': {
      const isOneOf = compileOneOf(columns, kind, condition.left, condition.values);
      return (row) => not(isOneOf(row));
    }
    case 'includes_any':
    case 'includes_all':
    case 'includes_none':
      return compileIncludes(columns, condition.kind, condition.left, condition.values);
    case 'contains':
    case 'starts_with':
      return compileText(columns, condition.kind, condition.left, condition.text);
    default:
      return compileComparison(columns, kind, condition.kind, condition.left, condition.right);
  }
}

function compileIsSet(columns: Columns, left: Operand): (row: Row) => boolean {
  const read = compileTerm(left, columns);
  return (row) => read(row) !== null;
}

function compileOneOf(columns: Columns, kind: ComparableKind, left: Operand, values: readonly string[]): RowTest {
  const read = compileTerm(left, columns);
  if (kind === 'text') {
    const folded = new Set(values.map(foldText));
    return (row) => {
      const actual = read(row);
      return typeof actual === 'string' ? folded.has(foldText(actual)) : null;
    };
  }
  if (left.of !== 'field')
    return (row) => {
      const actual = read(row);
      return typeof actual === 'string' ? values.includes(actual) : null;
    };
  const column = columns.of(left.field);
  return ({ cells }) => {
    const actual = cells[column];
    return typeof actual === 'string' ? values.includes(actual) : null;
  };
}

function compileIncludes(
  columns: Columns,
  kind: 'includes_any' | 'includes_all' | 'includes_none',
  left: Operand,
  values: readonly string[],
): RowTest {
  const read = compileTerm(left, columns);
  return (row) => {
    const actual = read(row);
    if (!Array.isArray(actual)) return null;
    if (kind === 'includes_all') return values.every((id) => actual.includes(id));
    return values.some((id) => actual.includes(id)) === (kind === 'includes_any');
  };
}

function compileText(columns: Columns, kind: 'contains' | 'starts_with', left: Operand, text: string): RowTest {
  const read = compileTerm(left, columns);
  const folded = foldText(text);
  return (row) => {
    const actual = read(row);
    if (typeof actual !== 'string') return null;
    return kind === 'contains' ? foldText(actual).includes(folded) : foldText(actual).startsWith(folded);
  };
}

/** A number or a choice against a constant is the common case and gets closures that call nothing. */
function compileComparison(
  columns: Columns,
  kind: ComparableKind,
  comparison: Comparison,
  left: Operand,
  right: Term,
): RowTest {
  if (left.of === 'field' && right.of === 'value' && kind === 'number' && typeof right.value === 'number') {
    return compileNumber(columns.of(left.field), comparison, right.value);
  }
  if (
    left.of === 'field' &&
    right.of === 'value' &&
    kind === 'id' &&
    (comparison === 'equals' || comparison === 'differs')
  ) {
    return compileId(columns.of(left.field), comparison, right.value);
  }
  const read = compileTerm(left, columns);
  const readRight = compileTerm(right, columns);
  return (row) => compareValues(kind, comparison, read(row), readRight(row), row.facts);
}

function compileBetween(
  columns: Columns,
  kind: ComparableKind,
  { left, low, high }: Extract<Condition, { kind: 'between' }>,
): RowTest {
  if (left.of === 'field' && kind === 'number' && low.of === 'value' && high.of === 'value') {
    const [column, least, most] = [columns.of(left.field), low.value, high.value];
    if (typeof least === 'number' && typeof most === 'number') {
      return ({ cells }) => {
        const actual = cells[column];
        return typeof actual === 'number' ? actual >= least && actual <= most : null;
      };
    }
  }
  return all([
    compileComparison(columns, kind, 'at_least', left, low),
    compileComparison(columns, kind, 'at_most', left, high),
  ]);
}

function compileNumber(column: number, comparison: Comparison, needed: number): RowTest {
  switch (comparison) {
    case 'equals':
      return ({ cells }) => {
        const actual = cells[column];
        return typeof actual === 'number' ? actual === needed : null;
      };
    case 'differs':
      return ({ cells }) => {
        const actual = cells[column];
        return typeof actual === 'number' ? actual !== needed : null;
      };
    case 'more':
      return ({ cells }) => {
        const actual = cells[column];
        return typeof actual === 'number' ? actual > needed : null;
      };
    case 'at_least':
      return ({ cells }) => {
        const actual = cells[column];
        return typeof actual === 'number' ? actual >= needed : null;
      };
    case 'less':
      return ({ cells }) => {
        const actual = cells[column];
        return typeof actual === 'number' ? actual < needed : null;
      };
    case 'at_most':
      return ({ cells }) => {
        const actual = cells[column];
        return typeof actual === 'number' ? actual <= needed : null;
      };
  }
}

function compileId(column: number, comparison: 'equals' | 'differs', needed: FactValue): RowTest {
  if (typeof needed !== 'string') return UNKNOWN;
  const wanted = comparison === 'equals';
  return ({ cells }) => {
    const actual = cells[column];
    return typeof actual === 'string' ? (actual === needed) === wanted : null;
  };
}

/** Reads a term of a row. */
export function compileTerm(term: Term, columns: Columns): (row: Row) => FactValue {
  switch (term.of) {
    case 'field': {
      const column = columns.of(term.field);
      return (row) => row.cells[column] ?? null;
    }
    case 'today':
      return compileToday(term.plus);
    default:
      return (row) => termValue(term, row.facts);
  }
}

/** A book of deals is judged on one day, so the day's text is made once, not once a deal. */
function compileToday(plus: number): (row: Row) => string {
  let madeFor = Number.NaN;
  let text = '';
  return (row) => {
    if (row.facts.today !== madeFor) {
      madeFor = row.facts.today;
      text = dayFromNumber(madeFor + plus);
    }
    return text;
  };
}
