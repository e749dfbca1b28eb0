import { type Catalogue, type Deal, foldText, isClosed } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { inOrder } from '../../db/inOrder.ts';
import { kept } from '../../db/keepingClient.ts';
import { sql } from '../../db/sql.ts';
import { messageRows } from './messageRows.ts';
import { noticeRows } from './noticeRows.ts';
import type { DealWrite, RowsWritten } from './parts/storedPart.ts';
import { storedParts } from './storedParts.ts';
import { iso } from './timestamps.ts';
import { recordRows, writeJournalOf } from './writeRecords.ts';

export type { DealWrite };

/**
 * Writes changes to deals, set by set, in the caller's transaction: of the deals themselves what has changed, then the
 * journal, whose chain the database computes.
 */
export async function writeDeals(tx: EntityManager, writes: readonly DealWrite[], catalogue: Catalogue): Promise<void> {
  const changed = writes.filter(({ before, change }) => before !== change.deal);
  if (changed.length === 0) return;
  const changes = changed.map(({ change }) => change);
  await inOrder(
    writeAll(tx, [
      dealRows(changed, catalogue),
      headRows(changed),
      ...storedParts().flatMap(({ writes: rowsOf }) => rowsOf?.(changed) ?? []),
      ...recordRows(changes),
      messageRows(changed.filter(({ tells }) => tells !== 'nobody').map(({ change }) => change)),
      noticeRows(changed.filter(({ tells }) => tells !== 'nobody').map(({ change }) => change)),
    ]),
    writeJournalOf(tx, changes),
  );
}

/** The version of an open deal is told only where it is not the live one. */
const EXCEPTION = `case when r.status = 'open' and exists (select from process_versions v where v.id = r.version_id and v.state = 'live') then null else r.version_id end`;

/** What stays as it was when a deal was begun. */
const FIXED = ['id', 'process_id', 'external_id', 'created_at', 'import_id'];

/** One statement for all of a deal's tables: whatever refers to another of its rows is looked at when it ends. */
export async function writeAll(tx: EntityManager, written: readonly RowsWritten[]): Promise<void> {
  const parts = written.filter(({ rows }) => rows.length > 0);
  const statements = parts.map(
    ({ statement }, place) => `part_${place} as (${statement.replaceAll(':rows', `:rows${place}`)})`,
  );
  const rows = Object.fromEntries(parts.map((part, place) => [`rows${place}`, part.rows]));
  if (parts.length > 0) await sql(tx, kept(`with ${statements.join(', ')} select 1`), rows);
}

/** The rows of those deals that have changed in something that stands there. */
function dealRows(writes: readonly DealWrite[], catalogue: Catalogue): RowsWritten {
  const rows = writes.filter(changesRow).map(({ change, importId }) => dealRow(change.deal, catalogue, importId));
  const all = Object.keys(rows[0] ?? {});
  const columns = all.filter((column) => !FIXED.includes(column));
  return {
    rows,
    statement: `insert into deals (${all.join(', ')}) select ${all.map((column) => (column === 'version_id' ? EXCEPTION : `r.${column}`)).join(', ')}
     from jsonb_populate_recordset(null::deals, :rows) r
     on conflict (id) do update set ${columns.map((column) => `${column} = excluded.${column}`).join(', ')}`,
  };
}

const ROW_PROPERTIES: readonly (keyof Deal)[] = [
  'version',
  'name',
  'status',
  ...storedParts().flatMap(({ row, select }) => (row ? (Object.keys(select) as (keyof Deal)[]) : [])),
];

/** Commands leave what they do not change the very same; what is one here has not changed. */
export const changesRow = ({ before, change: { deal } }: DealWrite): boolean =>
  before === null || ROW_PROPERTIES.some((property) => before[property] !== deal[property]);

function dealRow(deal: Deal, catalogue: Catalogue, importId: string | undefined): Readonly<Record<string, unknown>> {
  const { status } = deal;
  const closed = isClosed(status) ? status : null;
  return Object.assign(
    {
      id: deal.id,
      process_id: deal.process,
      version_id: deal.version,
      name: deal.name,
      name_fold: foldText(deal.name),
      external_id: deal.externalId,
      status: status.state,
      folded: foldedTexts(deal, catalogue),
      created_at: iso(deal.createdAt),
      closed_at: status.state === 'open' ? null : iso(status.at),
      closed_day: closed?.day ?? null,
      outcome_id: closed?.outcome ?? null,
      reason_id: closed?.reason ?? null,
      follow_up_day: closed?.followUp ?? null,
      estimate: closed?.estimate ?? null,
      import_id: importId ?? null,
    },
    ...storedParts().map(({ row }) => row?.(deal)),
  );
}

/** Texts as they compare, beside the texts as they were written (S3). */
function foldedTexts(deal: Deal, catalogue: Catalogue): Record<string, string> {
  const texts = Object.entries(deal.values).filter((entry): entry is [string, string] => {
    const type = catalogue.get(entry[0])?.type;
    return typeof entry[1] === 'string' && (type === 'text' || type === 'long_text');
  });
  return Object.fromEntries(texts.map(([field, text]) => [field, foldText(text)]));
}

export function headRows(writes: readonly DealWrite[]): RowsWritten {
  const rows = writes.map(({ change: { deal } }) => ({
    deal_id: deal.id,
    version_id: deal.version,
    revision: deal.revision,
    last_activity_at: iso(deal.lastActivityAt),
    settled_at: iso(deal.settledAt),
  }));
  return {
    rows,
    statement: `insert into deal_heads (deal_id, revision, last_activity_at, settled_at)
     select r.deal_id, r.revision - v.number, r.last_activity_at, r.settled_at
     from jsonb_to_recordset(:rows) as r(deal_id uuid, version_id uuid, revision integer, last_activity_at timestamptz, settled_at timestamptz)
     join process_versions v on v.id = r.version_id
     on conflict (deal_id) do update set revision = excluded.revision, last_activity_at = excluded.last_activity_at, settled_at = excluded.settled_at`,
  };
}
