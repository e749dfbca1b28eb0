import {
  type Change,
  type Deal,
  editDeal,
  type FactValue,
  type JournalBody,
  type Moment,
  type Setting,
  voidDeal,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { sql } from '../db/sql.ts';
import { loadDeals, lockDeals } from '../deals/loadDeals.ts';
import { writeDeals } from '../deals/writeDeals.ts';
import { notFound, Problem } from '../http/problem.ts';
import type { Person } from '../people/person.ts';
import { loadSettings } from '../processes/settings.ts';
import { findImport, type ImportView } from './repository.ts';

const BATCH = 500;

/** Takes an import back: what it made is voided, what it changed is changed back. Only while nobody touched any of it. */
export async function takeImportBack(context: Context, person: Person, id: string): Promise<ImportView> {
  const now = context.clock.now();
  const moment = { by: person.id, happenedAt: now, recordedAt: now };
  return inTransaction(context, async (tx) => {
    await sql(tx, `select id from imports where id = :id for update`, { id });
    const stored = await findImport(tx, id);
    if (!stored) throw notFound('import');
    if (stored.view.state !== 'done') throw new Problem(409, 'Only a finished import can be taken back.');
    await requireUntouched(tx, id);
    for await (const ids of batches(
      tx,
      `select id from deals where import_id = :id and status <> 'voided' and id > :after order by id limit ${BATCH}`,
      id,
    )) {
      await change(tx, ids, (deal, setting) => voidDeal(deal, setting, moment, 'Import taken back'));
    }
    const before = await valuesBefore(tx, id);
    for await (const ids of batches(
      tx,
      `select deal_id as id from import_updates where import_id = :id and deal_id > :after order by deal_id limit ${BATCH}`,
      id,
    )) {
      await change(tx, ids, (deal, setting) => restore(deal, setting, before.get(deal.id) ?? [], moment));
    }
    await sql(tx, `update imports set state = 'taken_back' where id = :id`, { id });
    const after = await findImport(tx, id);
    if (!after) throw notFound('import');
    return after.view;
  });
}

async function requireUntouched(tx: EntityManager, id: string): Promise<void> {
  const [row] = await sql<{ touched: number }>(
    tx,
    `select (select count(*)::int from deals d join deal_heads h on h.deal_id = d.id where d.import_id = :id and h.journal_count > 1)
       + (select count(*)::int from import_updates u join deal_heads h on h.deal_id = u.deal_id where u.import_id = :id and h.journal_count > u.journal_seq) as touched`,
    { id },
  );
  const touched = row?.touched ?? 0;
  if (touched > 0)
    throw new Problem(
      409,
      `${touched === 1 ? '1 of its deals was' : `${touched} of its deals were`} worked on since, so this import can no longer be taken back.`,
    );
}

async function* batches(tx: EntityManager, statement: string, id: string): AsyncGenerator<string[]> {
  for (let after = '00000000-0000-0000-0000-000000000000'; ; ) {
    const rows = await sql<{ id: string }>(tx, statement, { id, after });
    const last = rows.at(-1);
    if (!last) return;
    yield rows.map((row) => row.id);
    after = last.id;
  }
}

async function change(
  tx: EntityManager,
  ids: readonly string[],
  decide: (deal: Deal, setting: Setting) => Change,
): Promise<void> {
  await lockDeals(tx, ids);
  const deals = await loadDeals(tx, ids);
  const settings = await loadSettings(
    tx,
    deals.map(({ version }) => version),
  );
  for (const setting of settings.values()) {
    const mine = deals.filter(({ version }) => version === setting.version);
    await writeDeals(
      tx,
      mine.map((before) => ({ before, change: decide(before, setting) })),
      setting.catalogue,
    );
  }
}

type FieldChange = Extract<JournalBody, { kind: 'edited' }>['changes'][number];

async function valuesBefore(tx: EntityManager, id: string): Promise<ReadonlyMap<string, readonly FieldChange[]>> {
  const rows = await sql<{ deal: string; body: Extract<JournalBody, { kind: 'edited' }> }>(
    tx,
    `select u.deal_id as deal, j.body from import_updates u join journal j on j.deal_id = u.deal_id and j.seq = u.journal_seq where u.import_id = :id`,
    { id },
  );
  return new Map(rows.map(({ deal, body }) => [deal, body.changes]));
}

function restore(deal: Deal, setting: Setting, changes: readonly FieldChange[], moment: Moment): Change {
  const edits = changes
    .filter(({ field }) => setting.catalogue.get(field)?.type !== 'calculated')
    .map(({ field, before }) => ({ field, saw: deal.values[field] ?? null, value: before as FactValue }));
  const edited = editDeal(deal, setting, edits, moment);
  if (!edited.ok)
    throw new Problem(409, 'One of its deals was closed since, so this import can no longer be taken back.');
  return edited.value;
}
