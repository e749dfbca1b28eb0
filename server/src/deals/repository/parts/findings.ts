import type { Finding } from '@ladder/core';
import { iso } from '../timestamps.ts';
import { instant, text } from './columns.ts';
import {
  type ColumnsOf,
  changedParts,
  type DealWrite,
  listed,
  type RowsWritten,
  type StoredPart,
} from './storedPart.ts';

const COLUMNS: ColumnsOf<'findings'> = {
  key: text('key'),
  kind: text('kind'),
  level: text('level'),
  origin: text('origin'),
  requirement: text('requirement'),
  askedBy: text('asked_by'),
  openedAt: instant('opened_at'),
  closedAt: instant('closed_at'),
};

/** The oldest first; those of one moment by their keys, so that the same deal is always told the same. */
export const byBeginning = (a: Finding, b: Finding): number => a.openedAt - b.openedAt || (a.key < b.key ? -1 : 1);

export const findingsStored: StoredPart<'findings'> = {
  ...listed('findings', COLUMNS, 'findings where deal_id = d.id', 'opened_at, key'),
  asRead: ({ findings }) => ({ findings: [...findings].sort(byBeginning) }),
  writes: (writes) => {
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
    return [
      unexpected(writes),
      {
        rows,
        statement: `insert into findings select * from jsonb_populate_recordset(null::findings, :rows)
       on conflict (deal_id, key, opened_at) do update set closed_at = excluded.closed_at, kind = excluded.kind, level = excluded.level,
         origin = excluded.origin, asked_by = excluded.asked_by`,
      },
    ];
  },
};

const idOf = ({ key, openedAt }: Finding): string => `${key} ${openedAt}`;

/** A finding that was expected later and no longer is goes; all others are kept for good. */
function unexpected(writes: readonly DealWrite[]): RowsWritten {
  const rows = writes.flatMap(({ before, change: { deal } }) => {
    const kept = new Set(deal.findings.map(idOf));
    return (before?.findings ?? [])
      .filter((finding) => !kept.has(idOf(finding)))
      .map(({ key, openedAt }) => ({ deal_id: deal.id, key, opened_at: iso(openedAt) }));
  });
  return {
    rows,
    statement: `delete from findings f using jsonb_populate_recordset(null::findings, :rows) g
     where f.deal_id = g.deal_id and f.key = g.key and f.opened_at = g.opened_at`,
  };
}
