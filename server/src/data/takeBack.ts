import {
  andThen,
  type Change,
  canTakeBack,
  changeBy,
  type Deal,
  editStep,
  type FactValue,
  type FieldEdit,
  type JournalBody,
  type Moment,
  ok,
  renameStep,
  type Setting,
  type Step,
  takeBackStep,
  voidDeal,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inCommand, inLongWork } from '../context.ts';
import { isConnectionLost, OutcomeUnknown } from '../db/failures.ts';
import { IMPORT_QUEUE } from '../db/queues.ts';
import { at, sql } from '../db/sql.ts';
import { loadDeals, lockDeals } from '../deals/loadDeals.ts';
import { momentNow } from '../deals/runCommand.ts';
import { writeDeals } from '../deals/writeDeals.ts';
import { notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { loadSettings } from '../setting/settings.ts';
import { findImport, type ImportView, lockImport } from './repository.ts';

const BATCH = 500;

/** Begins to take an import back, behind the request. It is refused at once where its deals were worked on since. */
export async function startTakeBack(context: Context, person: Person, id: string): Promise<ImportView> {
  await inCommand(context, async (tx) => {
    const stored = await findImport(tx, id);
    if (!stored) throw notFound('import');
    await requireUntouched(tx, id);
    const started = await sql(
      tx,
      `update imports set state = 'taking_back', taking_back_by = :by, taken_back = 0, failure = null where id = :id and state = 'done' returning id`,
      { id, by: person.id },
    );
    if (started.length === 0) throw new Problem(409, 'Only a finished import can be taken back.');
  });
  await context.wake(IMPORT_QUEUE, { id });
  const after = await findImport(context.dataSource, id);
  if (!after) throw notFound('import');
  return after.view;
}

/**
 * Takes an import back: what it made is voided, what it changed is changed back, and the customers and contacts that it
 * made go where nothing else uses them. Only while nobody touched any of it: looked at again under the locks of all its
 * deals; where somebody did, the import stands as it stood, with the reason.
 */
export async function runTakeBack(context: Context, id: string): Promise<void> {
  try {
    await inLongWork(context, (tx) => takeBackAll(context, tx, id));
  } catch (error) {
    if (isConnectionLost(error) || error instanceof OutcomeUnknown) return;
    if (!(error instanceof Problem)) context.log.error({ err: error, import: id }, 'taking an import back failed');
    const failure = error instanceof Problem ? error.message : 'The error was written to the server’s log.';
    await sql(
      context.dataSource,
      `update imports set state = 'done', failure = :failure where id = :id and state = 'taking_back'`,
      { id, failure },
    ).catch((second) => context.log.error({ err: second, import: id }, 'why it failed could not be kept'));
  }
}

async function takeBackAll(context: Context, tx: EntityManager, id: string): Promise<void> {
  const [row] = (await lockImport(tx, id))
    ? await sql<{ by: string }>(
        tx,
        `select taking_back_by as by from imports where id = :id and state = 'taking_back'`,
        { id },
      )
    : [];
  if (!row) return;
  const { made, updated } = await dealsOf(tx, id);
  await lockDeals(tx, [...made, ...updated]);
  await requireUntouched(tx, id);
  const moment = momentNow(context, { id: row.by });
  const written = await writtenBy(tx, id);
  let done = 0;
  for (const ids of inBatches([...made, ...updated])) {
    await change(tx, ids, (deal, setting) => {
      const bodies = written.get(deal.id);
      return bodies ? restore(deal, setting, bodies, moment) : voidDeal(deal, setting, moment, 'Import taken back');
    });
    done += ids.length;
    await sql(context.dataSource, `update imports set taken_back = :done where id = :id`, { id, done });
  }
  await withdrawParties(tx, id, moment.recordedAt);
  await sql(tx, `update imports set state = 'taken_back', taken_back = :done where id = :id`, { id, done });
}

async function dealsOf(
  tx: EntityManager,
  id: string,
): Promise<{ made: readonly string[]; updated: readonly string[] }> {
  const made = await sql<{ id: string }>(
    tx,
    `select id from deals where import_id = :id and status <> 'voided' order by id`,
    { id },
  );
  const updated = await sql<{ id: string }>(
    tx,
    `select deal_id as id from import_updates where import_id = :id order by deal_id`,
    { id },
  );
  return { made: made.map((row) => row.id), updated: updated.map((row) => row.id) };
}

function* inBatches(ids: readonly string[]): Generator<readonly string[]> {
  for (let place = 0; place < ids.length; place += BATCH) yield ids.slice(place, place + BATCH);
}

/** Customers and contacts that the import made and nothing else uses are offered no longer. */
async function withdrawParties(tx: EntityManager, id: string, now: number): Promise<void> {
  await sql(
    tx,
    `update contacts c set withdrawn_at = :now where c.import_id = :id and c.withdrawn_at is null
       and not exists (select from deals d where d.contact_id = c.id and d.status <> 'voided')`,
    { id, now: at(now) },
  );
  await sql(
    tx,
    `update customers c set withdrawn_at = :now where c.import_id = :id and c.withdrawn_at is null
       and not exists (select from deals d where d.customer_id = c.id and d.status <> 'voided')
       and not exists (select from contacts o where o.customer_id = c.id and o.withdrawn_at is null)`,
    { id, now: at(now) },
  );
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

async function change(
  tx: EntityManager,
  ids: readonly string[],
  decide: (deal: Deal, setting: Setting) => Change,
): Promise<void> {
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

/** The deal with all of the import's entries undone, the newest first, as one change. */
function restore(deal: Deal, setting: Setting, bodies: readonly JournalBody[], moment: Moment): Change {
  const nothing: Step<unknown> = (before) => ok({ deal: before, records: [] });
  const undone = changeBy(
    deal,
    setting,
    moment,
    bodies.reduce<Step<unknown>>((before, body) => andThen(before, undoing(body, setting)), nothing),
  );
  if (undone.ok) return undone.value;
  throw new Problem(409, 'One of its deals was closed since, so this import can no longer be taken back.');
}

const undoing =
  (body: JournalBody, setting: Setting): Step<unknown> =>
  (deal, moment) => {
    switch (body.kind) {
      case 'edited':
        return editStep(setting, editsBack(deal, setting, body.changes))(deal, moment);
      case 'renamed':
        return renameStep(body.before)(deal, moment);
      case 'moved': {
        const step = canTakeBack(deal, setting, { id: moment.by, rank: 'manager' }, moment.happenedAt);
        return step.ok ? ok(takeBackStep(setting, step.value, 'Import taken back')(deal, moment)) : step;
      }
      default:
        return ok({ deal, records: [] });
    }
  };

type FieldChange = Extract<JournalBody, { kind: 'edited' }>['changes'][number];

const editsBack = (deal: Deal, setting: Setting, changes: readonly FieldChange[]): readonly FieldEdit[] =>
  changes
    .filter(({ field }) => setting.catalogue.get(field)?.type !== 'calculated')
    .map(({ field, before }) => ({ field, saw: deal.values[field] ?? null, value: before as FactValue }));
