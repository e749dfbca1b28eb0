import { Columns, compileTest, type Row, type RowTest } from '../criteria/compile.ts';
import type { Catalogue } from '../facts/field.ts';
import type { GateItem } from './item.ts';
import type { GateAnswer, GateFacts } from './verdict.ts';

/** A gate made ready to judge whole books of deals; gives the answers of `judgeGate` without explaining them. */
export interface CompiledGate {
  readonly answer: (facts: GateFacts) => GateAnswer;
  /** How many holding items are in the way. */
  readonly missing: (facts: GateFacts) => number;
}

/** Items of one level over the row that all items of the gate share: fields that must be filled, then tests of the others. */
interface CompiledItems {
  readonly fieldIds: readonly string[];
  readonly columns: readonly number[];
  readonly ids: readonly string[];
  readonly tests: readonly RowTest[];
}

/** Compiles the items of a gate over the catalogue's types. */
export function compileGate(items: readonly GateItem[], catalogue: Catalogue): CompiledGate {
  const columns = new Columns();
  const ofLevel = (level: GateItem['level']): CompiledItems => {
    const chosen = items.filter((item) => item.level === level);
    const fields = chosen.filter(isPlainField);
    const others = chosen.filter((item) => !isPlainField(item));
    return {
      fieldIds: fields.map(({ id }) => id),
      columns: fields.map(({ field }) => columns.of(field)),
      ids: others.map(({ id }) => id),
      tests: others.map((item) => compileItem(item, catalogue, columns)),
    };
  };
  const [holding, flagging] = [ofLevel('hold'), ofLevel('flag')];
  const read = columns.reader();
  return {
    answer: (facts) => {
      const row = read(facts);
      if (countOpen(holding, row, facts.waived, 1) > 0) return 'holds';
      return countOpen(flagging, row, facts.waived, 1) > 0 ? 'flags' : 'passes';
    },
    missing: (facts) => countOpen(holding, read(facts), facts.waived, Number.POSITIVE_INFINITY),
  };
}

type FieldItem = Extract<GateItem, { kind: 'field' }>;

const isPlainField = (item: GateItem): item is FieldItem => item.kind === 'field' && item.appliesWhen === undefined;

/** How many items are in the way; counting stops at `most`. */
function countOpen(items: CompiledItems, row: Row, waived: ReadonlySet<string>, most: number): number {
  const { fieldIds, columns, ids, tests } = items;
  const { cells } = row;
  const none = waived.size === 0;
  let count = 0;
  for (let place = 0; place < columns.length && count < most; place++) {
    if (cells[columns[place] as number] === null && (none || !waived.has(fieldIds[place] as string))) count++;
  }
  for (let place = 0; place < tests.length && count < most; place++) {
    if ((tests[place] as RowTest)(row) !== true && (none || !waived.has(ids[place] as string))) count++;
  }
  return count;
}

/** An item that does not apply counts as met. */
function compileItem(item: GateItem, catalogue: Catalogue, columns: Columns): RowTest {
  const isMet = compileMet(item, catalogue, columns);
  const applies = item.appliesWhen ? compileTest(item.appliesWhen, catalogue, columns) : null;
  return applies ? (row) => applies(row) === false || isMet(row) : isMet;
}

function compileMet(item: GateItem, catalogue: Catalogue, columns: Columns): RowTest {
  switch (item.kind) {
    case 'criterion':
      return compileTest(item.criterion, catalogue, columns);
    case 'field': {
      const column = columns.of(item.field);
      return ({ cells }) => cells[column] !== null;
    }
    case 'checklist': {
      const id = item.id;
      // The row was read from the gate's own facts, which carry the ticks.
      return ({ facts }) => (facts as GateFacts).ticked.has(id);
    }
    case 'decision':
      return () => false;
  }
}
