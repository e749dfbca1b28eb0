import { Columns, compileTest, type Row, type RowTest } from '../criteria/compile.ts';
import type { Catalogue } from '../facts/field.ts';
import type { GateFacts } from '../requirements/item.ts';
import { turnsOf } from '../requirements/itemParts.ts';
import type { Compiled } from '../requirements/kind.ts';
import { kindNamed } from '../requirements/kindOf.ts';
import type { GateItem } from '../requirements/kinds.ts';
import type { Instant } from '../time/day.ts';
import type { GateAnswer } from './verdict.ts';

/** A gate made ready to judge whole books of deals; gives the answers of `judgeGate` without explaining them. */
export interface CompiledGate {
  readonly answer: (facts: GateFacts) => GateAnswer;
  /** How many holding items are in the way. */
  readonly missing: (facts: GateFacts) => number;
  /** The first instant after `facts.at` at which the clock alone may change what it says; without end where none does. */
  readonly until: (facts: GateFacts) => Instant;
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
  const compiled = items.map((item) => ({ item, compiled: compileItem(item, catalogue, columns) }));
  const ofLevel = (level: GateItem['level']): CompiledItems => {
    const chosen = compiled.filter(({ item }) => item.level === level);
    const filled = chosen.flatMap(({ item, compiled }) =>
      compiled.as === 'filled' ? [{ id: item.id, column: compiled.column }] : [],
    );
    const tests = chosen.flatMap(({ item, compiled }) =>
      compiled.as === 'test' ? [{ id: item.id, test: compiled.test }] : [],
    );
    return {
      fieldIds: filled.map(({ id }) => id),
      columns: filled.map(({ column }) => column),
      ids: tests.map(({ id }) => id),
      tests: tests.map(({ test }) => test),
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
    until: (facts) => Math.min(...items.flatMap((item) => turnsOf(item, facts)), Number.POSITIVE_INFINITY),
  };
}

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
function compileItem(item: GateItem, catalogue: Catalogue, columns: Columns): Compiled {
  const compiled = kindNamed(item.kind).compile(item, catalogue, columns);
  if (!item.appliesWhen) return compiled;
  const isMet = testOf(compiled);
  const applies = compileTest(item.appliesWhen, catalogue, columns);
  return { as: 'test', test: (row) => applies(row) === false || isMet(row) };
}

function testOf(compiled: Compiled): RowTest {
  if (compiled.as === 'test') return compiled.test;
  const { column } = compiled;
  return ({ cells }) => cells[column] !== null;
}
