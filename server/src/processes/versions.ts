import type { processes, TypeOf } from '@ladder/contract';
import { type Connection, sql } from '../db/sql.ts';

export type VersionView = TypeOf<typeof processes.version>;

const VERSION = `
  select v.id, v.number, v.published_at as published, p.name as "publishedBy", o.open_deals as "openDeals",
    case when v.state in ('draft', 'live') then v.state when o.open_deals > 0 then 'in_use' else 'past' end as state
  from process_versions v left join people p on p.id = v.published_by
  cross join lateral (select count(*)::int as open_deals from deals d where d.version_id = v.id and d.status = 'open') o`;

type Row = Omit<VersionView, 'publishedAt'> & { readonly published: Date | null };

const toView = ({ published, ...row }: Row): VersionView => ({ ...row, publishedAt: published?.toISOString() ?? null });

/** A version's number and state: *in use* while open deals follow it, then *past* (S26). */
export async function versionSummary(connection: Connection, id: string): Promise<VersionView> {
  const [row] = await sql<Row>(connection, `${VERSION} where v.id = :id`, { id });
  if (!row) throw new Error(`There is no version ${id}`);
  return toView(row);
}

/** All versions of a process, newest first. */
export async function versionsOf(connection: Connection, process: string): Promise<readonly VersionView[]> {
  const rows = await sql<Row>(connection, `${VERSION} where v.process_id = :process order by v.number desc`, {
    process,
  });
  return rows.map(toView);
}
