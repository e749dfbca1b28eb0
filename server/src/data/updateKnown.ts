import { type Deal, type ImportedRow, type NotMoved, type Setting, stageOf, updateDeal } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { type DealWrite, writeDeals } from '../deals/repository/writeDeals.ts';
import { loadPartyValues } from '../facts/partyValues.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import type { BadRow, GoodRow, KnownDeal, Run } from './importRun.ts';
import { noteUpdates } from './repository/rows.ts';

/**
 * Writes the filled cells of rows whose deals are known: fields, name, and the stage where the gate lets the deal pass. A
 * closed deal is not written, and said so, as is a move that was not made.
 */
export async function updateKnown(
  tx: EntityManager,
  run: Run,
  rows: readonly GoodRow[],
  known: ReadonlyMap<string, KnownDeal>,
): Promise<BadRow[]> {
  const ids = rows.flatMap(({ row }) => known.get(row.externalId ?? '')?.id ?? []);
  await lockDeals(tx, ids);
  const deals = new Map((await loadDeals(tx, ids)).map((deal) => [deal.externalId, deal]));
  const settings = await loadSettings(
    tx,
    [...deals.values()].map(({ version }) => version),
  );
  const parties = await loadPartyValues(
    tx,
    rows.map(({ row }) => ({ ...deals.get(row.externalId)?.values, ...row.values })),
  );
  const bad: BadRow[] = [];
  const writes = rows.flatMap(({ record, row }, place) => {
    const deal = deals.get(row.externalId);
    const { write, problem } = updateOne(run, row, deal && { ...deal, partyValues: parties[place] ?? {} }, settings);
    if (problem !== null) bad.push({ record, reason: problem });
    return write ? [write] : [];
  });
  const changed = writes.filter(({ before, change }) => before !== change.deal);
  await writeDeals(tx, changed, run.setting.catalogue);
  await noteUpdates(tx, run.id, changed);
  run.counts.updated += changed.length;
  run.counts.skipped += writes.length - changed.length;
  return bad;
}

interface RowUpdate {
  readonly write: DealWrite | null;
  /** What was not done, in words. */
  readonly problem: string | null;
}

function updateOne(
  run: Run,
  { values, name, stage }: ImportedRow,
  deal: Deal | undefined,
  settings: ReadonlyMap<string, Setting>,
): RowUpdate {
  const setting = deal && settings.get(deal.version);
  if (!deal || !setting) return { write: null, problem: 'The deal with this external id is gone.' };
  const reason = `Imported from ${run.fileName}`;
  const updated = updateDeal(deal, setting, { values, name, stage, reason }, run.moment);
  if (!updated.ok) {
    const isClosed = updated.error.some(({ code }) => code === 'closed');
    const problem = isClosed
      ? 'The deal with this external id is closed.'
      : 'The deal’s version of the process does not have one of these fields.';
    return { write: null, problem };
  }
  const { change, notMoved } = updated.value;
  return { write: { before: deal, change }, problem: notMoved && notMovedText(run, notMoved, change.deal !== deal) };
}

function notMovedText({ setting }: Run, notMoved: NotMoved, isWritten: boolean): string {
  const stage = stageOf(setting.document, notMoved.stage)?.name ?? notMoved.stage;
  const rest = isWritten ? 'The other cells were written, but' : 'Nothing was written:';
  if (notMoved.code === 'no_such_stage')
    return `${rest} the deal’s own version of the process has no stage “${stage}”.`;
  const open = notMoved.open === 1 ? '1 requirement holds' : `${notMoved.open} requirements hold`;
  return `${rest} the deal was not moved to “${stage}”: ${open} the move.`;
}
