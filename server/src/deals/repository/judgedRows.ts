import type { EntityManager } from 'typeorm';
import { findingsStored } from './parts/findings.ts';
import { statesStored } from './parts/states.ts';
import type { DealWrite, RowsWritten } from './parts/storedPart.ts';
import { storedParts } from './storedParts.ts';
import { iso } from './timestamps.ts';
import { changesRow, headRows, writeAll } from './writeDeals.ts';

/** What judging alone writes of a deal, in its order. */
const JUDGED: Readonly<Record<string, (writes: readonly DealWrite[]) => readonly RowsWritten[]>> = {
  head: (writes) => [headRows(writes)],
  findings: (writes) => findingsStored.writes?.(writes) ?? [],
  states: (writes) => statesStored.writes?.(writes) ?? [],
};

type Row = Readonly<Record<string, unknown>>;

/** The rows that judging a deal writes, apart from their statements: they can be kept, and written later. */
export type JudgedRows = Readonly<Record<string, readonly (readonly Row[])[]>>;

/** The rows of a change; null where it is more than a judging: what it records, or what else of the deal it changes. */
export function judgedRows(write: DealWrite): JudgedRows | null {
  if (write.change.records.length > 0 || changesRow(write) || changesOtherParts(write)) return null;
  return Object.fromEntries(
    Object.entries(JUDGED).map(([name, rowsOf]) => [name, rowsOf([write]).map(({ rows }) => rows as readonly Row[])]),
  );
}

const changesOtherParts = (write: DealWrite): boolean =>
  storedParts()
    .filter(({ name }) => !(name in JUDGED))
    .some(({ writes }) => writes?.([write]).some(({ rows }) => rows.length > 0));

/** Writes such rows of many deals, as if they had been judged at another instant. */
export async function writeJudged(
  tx: EntityManager,
  judged: readonly JudgedRows[],
  judgedAt: number,
  instant: number,
): Promise<void> {
  const [from, to] = [iso(judgedAt), iso(instant)];
  const moved = (row: Row): Row =>
    Object.fromEntries(Object.entries(row).map(([column, value]) => [column, value === from ? to : value]));
  const written = Object.entries(JUDGED).flatMap(([name, rowsOf]) =>
    rowsOf([]).map(({ statement }, place) => ({
      statement,
      rows: judged.flatMap((rows) => rows[name]?.[place] ?? []).map(moved),
    })),
  );
  await writeAll(tx, written);
}
