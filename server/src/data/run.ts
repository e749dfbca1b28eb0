import { setImmediate } from 'node:timers/promises';
import type { DealId } from '@ladder/core';
import { actor, createDeal, type FactValue, readRow, type Setting, startOfDay, type Values } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { lockDeals } from '../deals/repository/loadDeals.ts';
import { type DealWrite, writeDeals } from '../deals/repository/writeDeals.ts';
import { loadPartyValues } from '../facts/partyValues.ts';
import { newId } from '../ids.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { firstTeams } from '../people/repository.ts';
import { lockProcess } from '../setting/repository/lockProcess.ts';
import { type CsvRecord, readRecords, toDelimiter } from './csv.ts';
import { dateOrdersOf } from './dateOrders.ts';
import type { BadRow, GoodRow, KnownDeal, Run } from './importRun.ts';
import { nameParties } from './nameParties.ts';
import { type ImportSettings, lockImport, markImported, readChunks, type StoredImport } from './repository/imports.ts';
import { findByExternalIds, insertBadRows } from './repository/rows.ts';
import { importSetting, importTerms, requireGoodSettings } from './terms.ts';
import { updateKnown } from './updateKnown.ts';

const BATCH = 500;

/**
 * Imports the good rows, a batch at a time. The settings were checked when it was begun, and are checked again here, where
 * it binds.
 */
export const importWork: WorkKind<ImportSettings> = { kind: 'import', run: importFile };

async function importFile(tx: EntityManager, work: WorkInHand<ImportSettings>): Promise<number> {
  const id = work.subject;
  const stored = await lockImport(tx, id, 'uploaded');
  await lockProcess(tx, work.request.process, 'begin');
  const run = await beginRun(tx, stored, work);
  if (run.settings.known === 'update') await lockKnownDeals(tx, run);
  await importBatches(tx, run, work);
  const { created, updated, skipped, bad } = run.counts;
  await markImported(tx, id, run.settings, { created, updated, skipped, bad });
  return created + updated;
}

const IDS_AT_ONCE = 5_000;

/** Locks the deals that the file updates, all in one order: locked as the rows come, two imports could wait for each other for ever. */
async function lockKnownDeals(tx: EntityManager, run: Run): Promise<void> {
  const column = run.terms.columns.findIndex((target) => target.to === 'deal' && target.column === 'external_id');
  if (column < 0) return;
  const ids: DealId[] = [];
  let externalIds: string[] = [];
  const look = async (): Promise<void> => {
    for (const { id } of await findByExternalIds(tx, externalIds)) ids.push(id);
    externalIds = [];
  };
  for await (const { cells } of readRecords(readChunks(tx, run.id), toDelimiter(run.settings.delimiter))) {
    const text = (cells[column] ?? '').trim();
    if (text !== '' && !text.includes('\u0000')) externalIds.push(text);
    if (externalIds.length >= IDS_AT_ONCE) await look();
  }
  await look();
  await lockDeals(tx, ids);
}

async function beginRun(
  tx: EntityManager,
  stored: StoredImport,
  { request: settings, now }: WorkInHand<ImportSettings>,
): Promise<Run> {
  const { id, fileName } = stored.view;
  const setting = await importSetting(tx, settings.process);
  const orders = await dateOrdersOf(tx, stored, settings.delimiter);
  requireGoodSettings(settings, setting, orders);
  const terms = await importTerms(tx, settings, setting, orders, now);
  const moment = { by: actor('import', id), happenedAt: now, recordedAt: now };
  const teams = await firstTeams(tx);
  return {
    id,
    fileName,
    settings,
    setting,
    terms,
    moment,
    teams,
    seen: new Map(),
    counts: { read: 0, created: 0, updated: 0, skipped: 0, bad: 0 },
  };
}

async function* inBatches(tx: EntityManager, run: Run): AsyncGenerator<CsvRecord[]> {
  let batch: CsvRecord[] = [];
  let isHead = true;
  for await (const record of readRecords(readChunks(tx, run.id), toDelimiter(run.settings.delimiter))) {
    if (!isHead) batch.push(record);
    isHead = false;
    if (batch.length < BATCH) continue;
    yield batch;
    batch = [];
  }
  if (batch.length > 0) yield batch;
}

/** Batch by batch: while the database writes one, the next is decided, for which everything was looked up before. */
async function importBatches(tx: EntityManager, run: Run, { progress }: WorkInHand<ImportSettings>): Promise<void> {
  let ready: DecidedBatch | null = null;
  for await (const records of inBatches(tx, run)) {
    const batch = await lookUp(tx, run, records);
    const storing: Promise<void> = ready ? store(tx, run, ready, progress) : Promise.resolve();
    // It is told below, once this batch is decided.
    storing.catch(() => undefined);
    const writes = await decide(run, batch);
    await storing;
    ready = { ...batch, writes };
  }
  if (ready) await store(tx, run, ready, progress);
}

/** Rows with all that is known of what they name. */
interface LookedUpBatch {
  readonly rows: number;
  readonly fresh: readonly GoodRow[];
  /** Of each fresh row, what the customer and the contact have that it names. */
  readonly parties: readonly Values[];
  readonly repeated: readonly GoodRow[];
  readonly known: ReadonlyMap<string, KnownDeal>;
  readonly bad: readonly BadRow[];
}

interface DecidedBatch extends LookedUpBatch {
  readonly writes: readonly DealWrite[];
}

async function lookUp(tx: EntityManager, run: Run, records: readonly CsvRecord[]): Promise<LookedUpBatch> {
  const bad: BadRow[] = [];
  const read = records.flatMap((record) => readOne(run, record, bad));
  const known = await knownDeals(tx, read);
  const good = await nameRows(tx, run, read, known, bad);
  const fresh = good.filter(({ row }) => !known.has(row.externalId ?? ''));
  const repeated = good.filter(({ row }) => known.has(row.externalId ?? ''));
  const parties = await loadPartyValues(
    tx,
    fresh.map(({ row }) => row.values),
  );
  return { rows: records.length, fresh, parties, repeated, known, bad };
}

/** So many rows are decided before the database's word is listened for. */
const AT_A_TURN = 25;

async function decide(run: Run, { fresh, parties }: LookedUpBatch): Promise<readonly DealWrite[]> {
  const writes: DealWrite[] = [];
  for (const [place, row] of fresh.entries()) {
    if (place % AT_A_TURN === 0) await setImmediate();
    writes.push({ before: null, change: newDeal(run, row, parties[place] ?? {}), importId: run.id });
  }
  return writes;
}

async function store(
  tx: EntityManager,
  run: Run,
  { rows, writes, repeated, known, bad }: DecidedBatch,
  progress: WorkInHand<ImportSettings>['progress'],
): Promise<void> {
  await writeDeals(tx, writes, run.setting.catalogue);
  run.counts.created += writes.length;
  if (run.settings.known === 'skip') run.counts.skipped += repeated.length;
  const notUpdated = run.settings.known === 'skip' ? [] : await updateKnown(tx, run, repeated, known);
  await storeBadRows(tx, run, [...bad, ...notUpdated]);
  run.counts.read += rows;
  await progress(run.counts.read);
}

function readOne(run: Run, record: CsvRecord, bad: BadRow[]): GoodRow[] {
  const read = readRow(record.cells, run.terms);
  const refuse = (reason: string): GoodRow[] => {
    bad.push({ record, reason });
    return [];
  };
  if (!read.ok) return refuse(read.error.map(({ detail }) => detail).join(' '));
  const { externalId, name, values } = read.value;
  if (!name && !values.customer) return refuse('This row has neither a name nor a customer.');
  const first = externalId === null ? undefined : run.seen.get(externalId);
  if (first !== undefined) return refuse(`The external id “${externalId}” stands in line ${first} already.`);
  if (externalId !== null) run.seen.set(externalId, record.line);
  return [{ record, row: read.value }];
}

/** Deals that have one of the rows' external ids, in whatever process. */
async function knownDeals(tx: EntityManager, rows: readonly GoodRow[]): Promise<ReadonlyMap<string, KnownDeal>> {
  const externalIds = rows.flatMap(({ row }) => (row.externalId === null ? [] : [row.externalId]));
  const known = await findByExternalIds(tx, externalIds);
  return new Map(known.map((deal) => [deal.external, deal]));
}

/** The rows that concern this process, with ids in place of the names of customers and contacts; the others are told. */
async function nameRows(
  tx: EntityManager,
  run: Run,
  rows: readonly GoodRow[],
  known: ReadonlyMap<string, KnownDeal>,
  bad: BadRow[],
): Promise<GoodRow[]> {
  const mine = rows.filter(({ record, row }) => {
    const deal = known.get(row.externalId ?? '');
    const isForeign = deal !== undefined && deal.process !== run.settings.process;
    if (isForeign)
      bad.push({ record, reason: `The external id “${row.externalId}” belongs to a deal of another process.` });
    return !isForeign;
  });
  const naming = { importId: run.id, now: run.moment.recordedAt };
  const named = await nameParties(
    tx,
    naming,
    mine.map(({ row }) => ({ values: row.values, presentCustomer: known.get(row.externalId ?? '')?.customer ?? null })),
  );
  return mine.flatMap(({ record, row }, place) => {
    const { values, problem } = { values: null, problem: null, ...named[place] };
    if (problem !== null) bad.push({ record, reason: problem });
    return values === null ? [] : [{ record, row: { ...row, values }, customerName: row.values.customer }];
  });
}

function newDeal(run: Run, { row, customerName }: GoodRow, partyValues: Values): ReturnType<typeof createDeal> {
  const { setting, moment, settings } = run;
  const instant = (day: string | null): number | null =>
    day === null ? null : Math.min(startOfDay(day, setting.zone), moment.happenedAt);
  const created = instant(row.created) ?? instant(row.enteredStage) ?? moment.happenedAt;
  const input = {
    id: newId<DealId>(moment.recordedAt),
    process: settings.process,
    externalId: row.externalId,
    name: row.name ?? String(customerName ?? ''),
    stage: row.stage ?? settings.stage,
    values: withSectionFields(withTeam(row.values, run), setting),
    partyValues,
  };
  return createDeal(input, setting, moment, {
    createdAt: created,
    enteredAt: instant(row.enteredStage) ?? created,
    lastActivityAt: instant(row.lastActivity),
  });
}

function withTeam(values: Values, { teams }: Run): Values {
  const team = typeof values.owner === 'string' ? (teams.get(values.owner) ?? null) : null;
  return { owner: null, team, ...values };
}

/** Fields of the process that the file says nothing of are empty from now on, not unrecorded. */
function withSectionFields(values: Values, setting: Setting): Values {
  const all: Record<string, FactValue> = {};
  for (const section of setting.document.sections) for (const field of section.fields) all[field] = null;
  return { ...all, ...values };
}

async function storeBadRows(tx: EntityManager, run: Run, bad: readonly BadRow[]): Promise<void> {
  run.counts.bad += bad.length;
  // PostgreSQL keeps no NUL; the row that is given back shows where one stood.
  const rows = bad.map(({ record, reason }) => ({
    import_id: run.id,
    line: record.line,
    cells: record.cells.map((cell) => cell.replaceAll('\u0000', '\ufffd')),
    reason,
  }));
  await insertBadRows(tx, rows);
}
