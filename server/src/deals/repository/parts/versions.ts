import { isClosed } from '@ladder/core';
import { iso } from '../timestamps.ts';
import { ms } from './columns.ts';
import type { DealWrite, RowsWritten, StoredPart } from './storedPart.ts';

/*
 * The versions from the one that the deal began with up to its own `fv`, each since it was live or since the deal's stay on
 * an older one ended; but for those that came and went during such a stay.
 */
const VERSIONS = `left join lateral (
  select coalesce(json_agg(json_build_object('version', f.id, 'from', ${ms('f.since')}) order by f.number), '[]') as list from (
    select v.id, v.number, greatest(began.recorded_at, v.published_at, s.stayed_until) as since
    from moves began join process_versions bv on bv.id = began.version_id
    join process_versions v on v.process_id = d.process_id and v.published_at is not null and v.number between bv.number and fv.number
    left join lateral (
      select max(to_at) as stayed_until from deal_stays where deal_id = d.id and version_id <> v.id and from_at <= v.published_at and to_at > v.published_at
    ) s on true
    where began.deal_id = d.id and began.seq = 1 and (s.stayed_until is null or s.stayed_until < coalesce(v.superseded_at, 'infinity'))
  ) f) versions on true`;

/** Versions are told by the process; kept with the deal is how long it stayed on one after the next was live. */
export const versionsStored: StoredPart<'versions'> = {
  select: { versions: 'versions.list' },
  from: VERSIONS,
  writes: (writes) => {
    const rows = writes.filter(changesVersion).map(({ change: { deal } }) => ({
      deal_id: deal.id,
      version_id: deal.version,
      at: iso(deal.settledAt),
      is_open: deal.status.state === 'open',
    }));
    const reopened = writes.filter(goesOnElsewhere).map(({ before, change: { deal } }) => ({
      deal_id: deal.id,
      version_id: before?.version,
      at: iso(deal.settledAt),
    }));
    return [begun(rows), ended(rows), closedMeanwhile(reopened)];
  },
};

const changesVersion = ({ before, change: { deal } }: DealWrite): boolean =>
  before?.version !== deal.version || before.status.state !== deal.status.state;

const goesOnElsewhere = ({ before, change: { deal } }: DealWrite): boolean =>
  before !== null && isClosed(before.status) && deal.status.state === 'open' && before.version !== deal.version;

const ROWS = 'jsonb_to_recordset(:rows) as r(deal_id uuid, version_id uuid, at timestamptz, is_open boolean)';

const begun = (rows: readonly object[]): RowsWritten => ({
  rows,
  statement: `insert into deal_stays (deal_id, version_id, from_at) select r.deal_id, v.id, v.superseded_at
     from ${ROWS} join process_versions v on v.id = r.version_id where r.is_open and v.superseded_at is not null on conflict do nothing`,
});

const ended = (rows: readonly object[]): RowsWritten => ({
  rows,
  statement: `update deal_stays s set to_at = greatest(r.at, s.from_at + interval '1 millisecond') from ${ROWS}
     where s.deal_id = r.deal_id and s.to_at = 'infinity' and s.version_id <> r.version_id`,
});

/** A deal that goes on in another version than it closed in stayed on that one while it was closed. */
const closedMeanwhile = (rows: readonly object[]): RowsWritten => ({
  rows,
  statement: `insert into deal_stays (deal_id, version_id, from_at, to_at)
     select r.deal_id, v.id, v.superseded_at, greatest(r.at, v.superseded_at + interval '1 millisecond')
     from jsonb_to_recordset(:rows) as r(deal_id uuid, version_id uuid, at timestamptz)
     join process_versions v on v.id = r.version_id where v.superseded_at is not null on conflict do nothing`,
});
