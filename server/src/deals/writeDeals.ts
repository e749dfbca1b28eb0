import {
  type ActivityRecord,
  type Catalogue,
  type Change,
  type Deal,
  type DealRecord,
  type Finding,
  foldText,
  isMoney,
  type JournalEntry,
  type MoveRecord,
  presentVisit,
  type RefusalRecord,
  textValue,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { asArray, sql } from '../db/sql.ts';
import { newId } from '../ids.ts';

/** A change to write: the deal as it was loaded (null where it is new), and what a command made of it. */
export interface DealWrite {
  readonly before: Deal | null;
  readonly change: Change;
  /** The import that made it. */
  readonly importId?: string;
}

/**
 * Writes changes to deals, set by set, in the caller's transaction: the deals themselves, what has changed of their
 * history, then the journal, whose chain the database computes.
 */
export async function writeDeals(tx: EntityManager, writes: readonly DealWrite[], catalogue: Catalogue): Promise<void> {
  const changed = writes.filter(({ before, change }) => before !== change.deal);
  if (changed.length === 0) return;
  await writeRows(tx, changed, catalogue);
  await writeHeads(tx, changed);
  await writeVisits(tx, changed);
  await writeTicks(tx, changed);
  await writeSpans(tx, changed);
  await writeFindings(tx, changed);
  const records = changed.flatMap(({ change }) => change.records.map((record) => ({ deal: change.deal, record })));
  await writeMoves(
    tx,
    pick(records, 'move').map(({ deal, record }) => moveRow(deal, record.move)),
  );
  await markTakenBack(
    tx,
    pick(records, 'move_taken_back').map(({ deal, record }) => ({
      deal: deal.id,
      seq: record.seq,
      at: iso(record.at),
      by: record.by,
    })),
  );
  await writeRefusals(
    tx,
    pick(records, 'refusal').map(({ deal, record }) => refusalRow(deal, record.refusal)),
  );
  await writeActivities(
    tx,
    pick(records, 'activity').map(({ deal, record }) => activityRow(deal, record.activity)),
  );
  await writeJournal(
    tx,
    pick(records, 'journal').map(({ deal, record }) => ({ deal, entry: record.entry })),
  );
  await dropVoidedFromMeasures(tx, changed);
}

type RecordOf<K extends DealRecord['kind']> = Extract<DealRecord, { kind: K }>;

const pick = <K extends DealRecord['kind']>(
  records: readonly { deal: Deal; record: DealRecord }[],
  kind: K,
): { deal: Deal; record: RecordOf<K> }[] =>
  records.filter((entry): entry is { deal: Deal; record: RecordOf<K> } => entry.record.kind === kind);

const iso = (at: number | null): string | null =>
  at === null ? null : at === Number.POSITIVE_INFINITY ? 'infinity' : new Date(at).toISOString();

async function writeRows(tx: EntityManager, writes: readonly DealWrite[], catalogue: Catalogue): Promise<void> {
  const rows = writes.map(({ change, importId }) => dealRow(change.deal, catalogue, importId));
  await sql(
    tx,
    `insert into deals select * from jsonb_populate_recordset(null::deals, :rows)
     on conflict (id) do update set version_id = excluded.version_id, name = excluded.name, name_fold = excluded.name_fold, status = excluded.status,
       stage_id = excluded.stage_id, entered_at = excluded.entered_at, entered_day = excluded.entered_day, move_on_day = excluded.move_on_day,
       customer_id = excluded.customer_id, contact_id = excluded.contact_id, owner_id = excluded.owner_id, team_id = excluded.team_id,
       source = excluded.source, value_minor = excluded.value_minor, currency = excluded.currency, own_chance = excluded.own_chance,
       close_date = excluded.close_date, next_action = excluded.next_action, values = excluded.values, folded = excluded.folded,
       closed_at = excluded.closed_at, closed_day = excluded.closed_day, reason_id = excluded.reason_id, follow_up_day = excluded.follow_up_day,
       path = excluded.path, path_text = excluded.path_text, attempt = excluded.attempt, grace = excluded.grace,
       activity_counts = excluded.activity_counts, close_date_moves = excluded.close_date_moves, move_count = excluded.move_count`,
    { rows },
  );
}

function dealRow(deal: Deal, catalogue: Catalogue, importId: string | undefined): object {
  const { status } = deal;
  const visit = presentVisit(deal);
  const value = isMoney(deal.values.value) ? deal.values.value : null;
  const closed = status.state === 'won' || status.state === 'lost' ? status : null;
  return {
    id: deal.id,
    process_id: deal.process,
    version_id: deal.version,
    name: deal.name,
    name_fold: foldText(deal.name),
    external_id: deal.externalId,
    status: status.state,
    stage_id: visit.stage,
    entered_at: iso(visit.enteredAt),
    entered_day: visit.enteredDay,
    move_on_day: visit.moveOnDay,
    customer_id: textValue(deal, 'customer'),
    contact_id: textValue(deal, 'contact'),
    owner_id: textValue(deal, 'owner'),
    team_id: textValue(deal, 'team'),
    source: textValue(deal, 'source'),
    value_minor: value?.minor ?? null,
    currency: value?.currency ?? null,
    own_chance: deal.values.own_chance ?? null,
    close_date: textValue(deal, 'close_date'),
    next_action: textValue(deal, 'next_action'),
    values: deal.values,
    folded: foldedTexts(deal, catalogue),
    created_at: iso(deal.createdAt),
    closed_at: status.state === 'open' ? null : iso(status.at),
    closed_day: closed?.day ?? null,
    reason_id: closed?.reason ?? null,
    follow_up_day: closed?.followUp ?? null,
    path: deal.path,
    path_text: deal.path.map(({ kind, to }) => to ?? kind).join(' '),
    attempt: deal.attempt,
    grace: deal.grace,
    activity_counts: deal.activityCounts,
    close_date_moves: deal.closeDateMoves,
    move_count: deal.moveCount,
    import_id: importId ?? null,
  };
}

/** Texts as they compare, beside the texts as they were written (S3). */
function foldedTexts(deal: Deal, catalogue: Catalogue): Record<string, string> {
  const texts = Object.entries(deal.values).filter((entry): entry is [string, string] => {
    const type = catalogue.get(entry[0])?.type;
    return typeof entry[1] === 'string' && (type === 'text' || type === 'long_text');
  });
  return Object.fromEntries(texts.map(([field, text]) => [field, foldText(text)]));
}

async function writeHeads(tx: EntityManager, writes: readonly DealWrite[]): Promise<void> {
  const rows = writes.map(({ change: { deal } }) => ({
    deal_id: deal.id,
    revision: deal.revision,
    last_activity_at: iso(deal.lastActivityAt),
  }));
  await sql(
    tx,
    `insert into deal_heads (deal_id, revision, last_activity_at)
     select deal_id, revision, last_activity_at from jsonb_populate_recordset(null::deal_heads, :rows)
     on conflict (deal_id) do update set revision = excluded.revision, last_activity_at = excluded.last_activity_at`,
    { rows },
  );
}

/** What a list holds now that the list before did not, the very same object: unchanged parts keep their identity. */
function changedParts<T>(writes: readonly DealWrite[], list: (deal: Deal) => readonly T[]): { deal: Deal; part: T }[] {
  return writes.flatMap(({ before, change: { deal } }) => {
    const old = new Set(before ? list(before) : []);
    return list(deal)
      .filter((part) => !old.has(part))
      .map((part) => ({ deal, part }));
  });
}

/** Stays that end are written before the one that begins, for only one may be open. */
async function writeVisits(tx: EntityManager, writes: readonly DealWrite[]): Promise<void> {
  const rows = changedParts(writes, ({ visits }) => visits)
    .sort((a, b) => Number(a.part.leftAt === null) - Number(b.part.leftAt === null))
    .map(({ deal, part }) => ({
      deal_id: deal.id,
      seq: part.seq,
      stage_id: part.stage,
      entered_at: iso(part.enteredAt),
      entered_day: part.enteredDay,
      left_at: iso(part.leftAt),
      left_day: part.leftDay,
      move_on_day: part.moveOnDay,
      move_seq: part.moveSeq,
      taken_back: part.takenBack === 'yes',
    }));
  if (rows.length === 0) return;
  await sql(
    tx,
    `insert into visits select * from jsonb_populate_recordset(null::visits, :rows)
     on conflict (deal_id, seq) do update set left_at = excluded.left_at, left_day = excluded.left_day, taken_back = excluded.taken_back`,
    { rows },
  );
}

async function writeTicks(tx: EntityManager, writes: readonly DealWrite[]): Promise<void> {
  const rows = changedParts(writes, ({ ticks }) => ticks).map(({ deal, part }) => ({
    deal_id: deal.id,
    item: part.item,
    ticked_at: iso(part.at),
    ticked_by: part.by,
    visit_seq: part.visitSeq,
    unticked_at: iso(part.untickedAt),
  }));
  if (rows.length === 0) return;
  await sql(
    tx,
    `insert into ticks select * from jsonb_populate_recordset(null::ticks, :rows)
     on conflict (deal_id, item, ticked_at) do update set unticked_at = excluded.unticked_at`,
    { rows },
  );
}

async function writeSpans(tx: EntityManager, writes: readonly DealWrite[]): Promise<void> {
  const rows = changedParts(writes, ({ spans }) => spans)
    .sort((a, b) => Number(a.part.to === null) - Number(b.part.to === null))
    .map(({ deal, part }) => ({
      deal_id: deal.id,
      aspect: part.aspect,
      value: part.value,
      from_at: iso(part.from),
      to_at: iso(part.to),
    }));
  if (rows.length === 0) return;
  await sql(
    tx,
    `insert into deal_spans (deal_id, aspect, value, from_at, to_at)
     select deal_id, aspect, coalesce(value, 'null'::jsonb), from_at, to_at from jsonb_populate_recordset(null::deal_spans, :rows)
     on conflict (deal_id, aspect, from_at) do update set value = excluded.value, to_at = excluded.to_at`,
    { rows },
  );
}

const findingId = ({ key, openedAt }: Finding): string => `${key} ${openedAt}`;

/** A finding that was expected later and no longer is goes; all others are kept for good. */
async function writeFindings(tx: EntityManager, writes: readonly DealWrite[]): Promise<void> {
  const gone = writes.flatMap(({ before, change: { deal } }) => {
    const kept = new Set(deal.findings.map(findingId));
    return (before?.findings ?? [])
      .filter((finding) => !kept.has(findingId(finding)))
      .map(({ key, openedAt }) => ({ deal_id: deal.id, key, opened_at: iso(openedAt) }));
  });
  if (gone.length > 0) {
    await sql(
      tx,
      `delete from findings f using jsonb_populate_recordset(null::findings, :gone) g
       where f.deal_id = g.deal_id and f.key = g.key and f.opened_at = g.opened_at`,
      { gone },
    );
  }
  const rows = changedParts(writes, ({ findings }) => findings).map(({ deal, part }) => ({
    deal_id: deal.id,
    key: part.key,
    opened_at: iso(part.openedAt),
    closed_at: iso(part.closedAt),
    process_id: deal.process,
    kind: part.kind,
    level: part.level,
    origin: part.origin,
    requirement: part.requirement,
    asked_by: part.askedBy,
  }));
  if (rows.length === 0) return;
  await sql(
    tx,
    `insert into findings select * from jsonb_populate_recordset(null::findings, :rows)
     on conflict (deal_id, key, opened_at) do update set closed_at = excluded.closed_at, kind = excluded.kind, level = excluded.level,
       origin = excluded.origin, asked_by = excluded.asked_by`,
    { rows },
  );
}

function moveRow(deal: Deal, move: MoveRecord): object {
  return {
    deal_id: deal.id,
    seq: move.seq,
    process_id: deal.process,
    version_id: move.version,
    kind: move.kind,
    from_stage: move.from,
    to_stage: move.to,
    over_stages: move.over,
    happened_at: iso(move.happenedAt),
    recorded_at: iso(move.recordedAt),
    day: move.day,
    stay_days: move.stayDays,
    target_days: move.targetDays,
    by_id: move.by,
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
    counts: true,
  };
}

async function writeMoves(tx: EntityManager, rows: readonly object[]): Promise<void> {
  if (rows.length > 0)
    await sql(tx, `insert into moves select * from jsonb_populate_recordset(null::moves, :rows)`, { rows });
}

async function markTakenBack(tx: EntityManager, rows: readonly object[]): Promise<void> {
  if (rows.length === 0) return;
  await sql(
    tx,
    `update moves m set taken_back_at = r.at, taken_back_by = r.by, counts = false
     from jsonb_to_recordset(:rows) as r(deal uuid, seq integer, at timestamptz, by uuid) where m.deal_id = r.deal and m.seq = r.seq`,
    { rows },
  );
}

async function dropVoidedFromMeasures(tx: EntityManager, writes: readonly DealWrite[]): Promise<void> {
  const ids = writes.filter(({ change }) => change.deal.status.state === 'voided').map(({ change }) => change.deal.id);
  if (ids.length > 0)
    await sql(tx, `update moves set counts = false where deal_id = any(:ids::uuid[])`, { ids: asArray(ids) });
}

interface RefusalRow {
  readonly deal_id: string;
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
    by_id: refusal.by,
    verdict: refusal.verdict,
    snapshot: refusal.snapshot,
  };
}

/** A refusal counts once per deal, gate and day (S13); those of one day that are written together become one row. */
async function writeRefusals(tx: EntityManager, all: readonly RefusalRow[]): Promise<void> {
  const rows = new Map<string, RefusalRow>();
  for (const row of all) {
    const gate = `${row.deal_id} ${row.from_stage} ${row.target} ${row.day}`;
    rows.set(gate, { ...row, first_at: rows.get(gate)?.first_at ?? row.first_at });
  }
  if (rows.size === 0) return;
  await sql(
    tx,
    `insert into refusals select * from jsonb_populate_recordset(null::refusals, :rows)
     on conflict (deal_id, from_stage, target, day) do update set last_at = excluded.last_at, verdict = excluded.verdict, snapshot = excluded.snapshot`,
    { rows: [...rows.values()] },
  );
}

function activityRow(deal: Deal, activity: ActivityRecord): object {
  return {
    id: newId(activity.recordedAt),
    deal_id: deal.id,
    kind: activity.kind,
    happened_at: iso(activity.happenedAt),
    recorded_at: iso(activity.recordedAt),
    by_id: activity.by,
    previous_at: iso(activity.previousAt),
  };
}

async function writeActivities(tx: EntityManager, rows: readonly object[]): Promise<void> {
  if (rows.length > 0)
    await sql(tx, `insert into activities select * from jsonb_populate_recordset(null::activities, :rows)`, { rows });
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
    by: entry.by,
    body: entry.body,
    text: entry.text,
    text_id: entry.text === null ? null : newId(entry.recordedAt),
  }));
  const texts = rows.filter(({ text }) => text !== null);
  if (texts.length > 0) {
    await sql(
      tx,
      `insert into journal_texts (id, deal_id, text) select text_id, deal, text from jsonb_to_recordset(:texts) as r(text_id uuid, deal uuid, text text)`,
      { texts },
    );
  }
  await sql(
    tx,
    `insert into journal (deal_id, kind, stage_id, happened_at, recorded_at, by_id, body, text_id)
     select deal, kind, stage, happened, recorded, by, body, text_id
     from jsonb_to_recordset(:rows) as r(place integer, deal uuid, kind text, stage text, happened timestamptz, recorded timestamptz, by uuid, body jsonb, text_id uuid)
     order by place`,
    { rows },
  );
}
