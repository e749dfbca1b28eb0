import {
  andThen,
  type Change,
  canTakeBack,
  type Deal,
  editDeal,
  type FactValue,
  type FieldEdit,
  type JournalBody,
  type Moment,
  ok,
  type Result,
  renameDeal,
  type Setting,
  takeBack,
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
    const written = await writtenBy(tx, id);
    for await (const ids of batches(
      tx,
      `select deal_id as id from import_updates where import_id = :id and deal_id > :after order by deal_id limit ${BATCH}`,
      id,
    )) {
      await change(tx, ids, (deal, setting) => restore(deal, setting, written.get(deal.id) ?? [], moment));
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

/** What the import wrote into the journals of deals that it updated, the newest first. */
async function writtenBy(tx: EntityManager, id: string): Promise<ReadonlyMap<string, readonly JournalBody[]>> {
  const rows = await sql<{ deal: string; bodies: JournalBody[] }>(
    tx,
    `select u.deal_id as deal, json_agg(j.body order by j.seq desc) as bodies
     from import_updates u join journal j on j.deal_id = u.deal_id and j.seq > u.seq_before and j.seq <= u.journal_seq
     where u.import_id = :id group by u.deal_id`,
    { id },
  );
  return new Map(rows.map(({ deal, bodies }) => [deal, bodies]));
}

/** The deal with each of the import's entries undone, the newest first. */
function restore(deal: Deal, setting: Setting, bodies: readonly JournalBody[], moment: Moment): Change {
  let change: Change = { deal, records: [] };
  for (const body of bodies) {
    const undone = andThen(change, (after) => undo(after, setting, body, moment));
    if (!undone.ok)
      throw new Problem(409, 'One of its deals was closed since, so this import can no longer be taken back.');
    change = undone.value;
  }
  return change;
}

function undo(deal: Deal, setting: Setting, body: JournalBody, moment: Moment): Result<Change, unknown> {
  switch (body.kind) {
    case 'edited':
      return editDeal(deal, setting, editsBack(deal, setting, body.changes), moment);
    case 'renamed':
      return renameDeal(deal, setting, body.before, moment);
    case 'moved': {
      const step = canTakeBack(deal, setting, { id: moment.by, rank: 'manager' }, moment.happenedAt);
      return step.ok ? ok(takeBack(deal, setting, step.value, moment, 'Import taken back')) : step;
    }
    default:
      return ok({ deal, records: [] });
  }
}

type FieldChange = Extract<JournalBody, { kind: 'edited' }>['changes'][number];

const editsBack = (deal: Deal, setting: Setting, changes: readonly FieldChange[]): readonly FieldEdit[] =>
  changes
    .filter(({ field }) => setting.catalogue.get(field)?.type !== 'calculated')
    .map(({ field, before }) => ({ field, saw: deal.values[field] ?? null, value: before as FactValue }));
