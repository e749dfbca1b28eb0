import {
  type Catalogue,
  type Change,
  type Deal,
  type Finding,
  foldText,
  isMoney,
  presentVisit,
  textValue,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { sql } from '../db/sql.ts';
import { iso } from './timestamps.ts';
import { writeRecords } from './writeRecords.ts';

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
  await writeRecords(
    tx,
    changed.map(({ change }) => change),
  );
}

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
       path = excluded.path, path_text = excluded.path_text, attempt = excluded.attempt,
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
    currency: deal.currency,
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
    settled_at: iso(deal.settledAt),
  }));
  await sql(
    tx,
    `insert into deal_heads (deal_id, revision, last_activity_at, settled_at)
     select deal_id, revision, last_activity_at, settled_at from jsonb_populate_recordset(null::deal_heads, :rows)
     on conflict (deal_id) do update set revision = excluded.revision, last_activity_at = excluded.last_activity_at, settled_at = excluded.settled_at`,
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
