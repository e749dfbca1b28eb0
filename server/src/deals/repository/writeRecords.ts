import type {
  ActivityRecord,
  Change,
  Deal,
  DealId,
  DealRecord,
  JournalEntry,
  MoveRecord,
  RefusalRecord,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { inOrder } from '../../db/inOrder.ts';
import { kept } from '../../db/keepingClient.ts';
import { asArray, sql } from '../../db/sql.ts';
import { newId } from '../../ids.ts';
import { actorColumns } from './actorColumns.ts';
import type { RowsWritten } from './parts/storedPart.ts';
import { iso } from './timestamps.ts';

type Recorded = readonly { readonly deal: Deal; readonly record: DealRecord }[];

const recordsOf = (changes: readonly Change[]): Recorded =>
  changes.flatMap(({ deal, records }) => records.map((record) => ({ deal, record })));

/** What commands recorded beside the deals, but for the journal: moves, refusals, activities. */
export function recordRows(changes: readonly Change[]): readonly RowsWritten[] {
  const records = recordsOf(changes);
  return [
    moveRows(pick(records, 'move').map(({ deal, record }) => moveRow(deal, record.move))),
    takenBackRows(
      pick(records, 'move_taken_back').map(({ deal, record }) => ({
        deal: deal.id,
        seq: record.seq,
        at: iso(record.at),
        ...actorColumns(record.by),
      })),
    ),
    reopenedRows(
      pick(records, 'closing_reopened').map(({ deal, record }) => ({
        deal: deal.id,
        seq: record.seq,
        at: iso(record.at),
      })),
    ),
    refusalRows(pick(records, 'refusal').map(({ deal, record }) => refusalRow(deal, record.refusal))),
  ];
}

/** What can be written only when those rows are there: activities find their place, and last the journal its chain. */
export async function writeJournalOf(tx: EntityManager, changes: readonly Change[]): Promise<void> {
  const records = recordsOf(changes);
  await inOrder(
    writeActivities(
      tx,
      pick(records, 'activity').map(({ deal, record }) => activityRow(deal, record.activity)),
    ),
    writeJournal(
      tx,
      pick(records, 'journal').map(({ deal, record }) => ({ deal, entry: record.entry })),
    ),
    dropVoidedFromMeasures(tx, changes),
  );
}

type RecordOf<K extends DealRecord['kind']> = Extract<DealRecord, { kind: K }>;

const pick = <K extends DealRecord['kind']>(records: Recorded, kind: K): { deal: Deal; record: RecordOf<K> }[] =>
  records.filter((entry): entry is { deal: Deal; record: RecordOf<K> } => entry.record.kind === kind);

function moveRow(deal: Deal, move: MoveRecord): object {
  return {
    deal_id: deal.id,
    seq: move.seq,
    process_id: deal.process,
    version_id: move.version,
    kind: move.kind,
    from_stage: move.from,
    to_stage: move.to,
    outcome_id: move.outcome,
    over_stages: move.over,
    happened_at: iso(move.happenedAt),
    recorded_at: iso(move.recordedAt),
    day: move.day,
    stay_days: move.stayDays,
    target_days: move.targetDays,
    ...actorColumns(move.by),
    forced: move.forced === 'yes',
    reason_id: move.reason,
    owner_id: move.owner,
    team_id: move.team,
    source: move.source,
    value_minor: move.value?.minor ?? null,
    currency: move.value?.currency ?? null,
    reporting_minor: move.reportingMinor,
    verdict: move.verdict,
    snapshot: move.snapshot,
    taken_back_at: null,
    taken_back_by: null,
    reopened_at: null,
    voided_at: null,
    counts: true,
  };
}

const moveRows = (rows: readonly object[]): RowsWritten => ({
  rows,
  statement: `insert into moves select * from jsonb_populate_recordset(null::moves, :rows)`,
});

const takenBackRows = (rows: readonly object[]): RowsWritten => ({
  rows,
  statement: `update moves m set taken_back_at = r.at, taken_back_by = r.by_id, taken_back_actor = r.by_actor, counts = false
     from jsonb_to_recordset(:rows) as r(deal uuid, seq integer, at timestamptz, by_id uuid, by_actor text) where m.deal_id = r.deal and m.seq = r.seq`,
});

/** Movement counts a closing no longer once the deal goes on, and that of days before still does (S65). */
const reopenedRows = (rows: readonly object[]): RowsWritten => ({
  rows,
  statement: `update moves m set reopened_at = r.at, counts = false
     from jsonb_to_recordset(:rows) as r(deal uuid, seq integer, at timestamptz) where m.deal_id = r.deal and m.seq = r.seq`,
});

async function dropVoidedFromMeasures(tx: EntityManager, changes: readonly Change[]): Promise<void> {
  const rows = changes.flatMap(({ deal: { id, status } }) =>
    status.state === 'voided' ? [{ deal: id, at: iso(status.at) }] : [],
  );
  if (rows.length === 0) return;
  const voided = 'jsonb_to_recordset(:rows) as r(deal uuid, at timestamptz)';
  await sql(
    tx,
    `update moves m set voided_at = r.at, counts = false from ${voided} where m.deal_id = r.deal and m.voided_at is null`,
    { rows },
  );
  await sql(tx, `update step_runs s set counts = false from ${voided} where s.deal_id = r.deal and s.counts`, { rows });
}

interface RefusalRow {
  readonly deal_id: DealId;
  readonly from_stage: string;
  readonly target: string;
  readonly day: string;
  readonly first_at: string | null;
  readonly [column: string]: unknown;
}

function refusalRow(deal: Deal, refusal: RefusalRecord): RefusalRow {
  return {
    deal_id: deal.id,
    from_stage: refusal.from,
    target: refusal.target,
    day: refusal.day,
    first_at: iso(refusal.at),
    last_at: iso(refusal.at),
    ...actorColumns(refusal.by),
    verdict: refusal.verdict,
    snapshot: refusal.snapshot,
  };
}

/** A refusal counts once per deal, gate and day (S13); those of one day that are written together become one row. */
function refusalRows(all: readonly RefusalRow[]): RowsWritten {
  const rows = new Map<string, RefusalRow>();
  for (const row of all) {
    const gate = `${row.deal_id} ${row.from_stage} ${row.target} ${row.day}`;
    rows.set(gate, { ...row, first_at: rows.get(gate)?.first_at ?? row.first_at });
  }
  return {
    rows: [...rows.values()],
    statement: `insert into refusals select * from jsonb_populate_recordset(null::refusals, :rows)
     on conflict (deal_id, from_stage, target, day) do update set last_at = excluded.last_at, verdict = excluded.verdict, snapshot = excluded.snapshot`,
  };
}

type ActivityRow = ReturnType<typeof activityRow>;

function activityRow(deal: Deal, activity: ActivityRecord) {
  return {
    id: newId(activity.recordedAt),
    deal_id: deal.id,
    kind: activity.kind,
    happened_at: iso(activity.happenedAt),
    recorded_at: iso(activity.recordedAt),
    ...actorColumns(activity.by),
    previous_at: iso(activity.previousAt),
  };
}

async function writeActivities(tx: EntityManager, rows: readonly ActivityRow[]): Promise<void> {
  if (rows.length === 0) return;
  const writing = sql(
    tx,
    kept(`insert into activities select * from jsonb_populate_recordset(null::activities, :rows)`),
    {
      rows,
    },
  );
  const late = rows.filter(
    ({ previous_at, happened_at }) => previous_at !== null && happened_at !== null && previous_at > happened_at,
  );
  await inOrder(
    writing,
    linkLateActivities(
      tx,
      late.map(({ id }) => id),
    ),
  );
}

/** Each activity stores the one before it (S22); one that is written down late goes in between two that are there. */
async function linkLateActivities(tx: EntityManager, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  await sql(
    tx,
    `update activities late set previous_at = (select max(happened_at) from activities a where a.deal_id = late.deal_id and a.happened_at < late.happened_at)
     where id = any(:ids::uuid[])`,
    { ids: asArray(ids) },
  );
  await sql(
    tx,
    `update activities following set previous_at = late.happened_at from activities late
     where late.id = any(:ids::uuid[]) and following.deal_id = late.deal_id
       and following.happened_at = (select min(happened_at) from activities a where a.deal_id = late.deal_id and a.happened_at > late.happened_at)`,
    { ids: asArray(ids) },
  );
}

async function writeJournal(tx: EntityManager, entries: readonly { deal: Deal; entry: JournalEntry }[]): Promise<void> {
  if (entries.length === 0) return;
  const rows = entries.map(({ deal, entry }, place) => ({
    place,
    deal: deal.id,
    kind: entry.body.kind,
    stage: entry.stage,
    happened: iso(entry.happenedAt),
    recorded: iso(entry.recordedAt),
    ...actorColumns(entry.by),
    body: entry.body,
    text: entry.text,
    text_id: entry.text === null ? null : newId(entry.recordedAt),
  }));
  await inOrder(
    writeTexts(
      tx,
      rows.filter(({ text }) => text !== null),
    ),
    writeEntries(tx, rows),
  );
}

async function writeTexts(tx: EntityManager, texts: readonly object[]): Promise<void> {
  if (texts.length === 0) return;
  await sql(
    tx,
    kept(
      `insert into journal_texts (id, deal_id, text) select text_id, deal, text from jsonb_to_recordset(:texts) as r(text_id uuid, deal uuid, text text)`,
    ),
    { texts },
  );
}

const writeEntries = (tx: EntityManager, rows: readonly object[]): Promise<unknown> =>
  sql(tx, kept('select append_journal(:rows::jsonb)'), { rows });
