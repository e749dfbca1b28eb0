import type { DealId } from '@ladder/core';
import { DEAL_PART_NAMES, type DealPartName, type DealStatus, type DealWith, type Estimate } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { kept } from '../../db/keepingClient.ts';
import { asArray, type Connection, sql } from '../../db/sql.ts';
import { WRITERS_LOCK } from '../../setting/repository/lockProcess.ts';
import { MARK, MARKED } from '../../setting/repository/settings.ts';
import { followedBy, REVISION } from './followed.ts';
import { ms } from './parts/columns.ts';
import { storedParts } from './storedParts.ts';

/** A deal's row and its head. */
export interface HeadRow extends Omit<DealWith<never>, 'status'> {
  readonly state: DealStatus['state'];
  readonly closedAt: number | null;
  readonly closedDay: string | null;
  readonly reason: string | null;
  readonly followUp: string | null;
  readonly outcome: string | null;
  readonly estimate: Estimate | null;
}

const HEAD = {
  id: 'd.id',
  process: 'd.process_id',
  version: 'fv.id',
  externalId: 'd.external_id',
  name: 'd.name',
  createdAt: ms('d.created_at'),
  revision: REVISION,
  settledAt: ms('h.settled_at'),
  state: 'd.status',
  closedAt: ms('d.closed_at'),
  closedDay: 'd.closed_day::text',
  reason: 'd.reason_id',
  followUp: 'd.follow_up_day::text',
  outcome: 'd.outcome_id',
  estimate: 'd.estimate',
} as const satisfies Readonly<Record<keyof HeadRow, string>>;

/**
 * Locks the heads of deals, in one order everywhere, so that writers wait for each other and never for ever (S34). A version
 * goes live once nobody is writing deals of its process, so that what is written was decided by the version that is live.
 */
export async function lockDeals(tx: EntityManager, ids: readonly DealId[]): Promise<void> {
  const [id, ...others] = ids;
  // PostgreSQL plans anew for each list, and once for all that ask for one.
  const these = others.length === 0 ? 'h.deal_id = :id::uuid' : 'h.deal_id = any(:ids::uuid[])';
  await sql(
    tx,
    kept(`select h.deal_id, pg_advisory_xact_lock_shared(${WRITERS_LOCK('d.process_id')}) from deal_heads h join deals d on d.id = h.deal_id
     where ${these} order by h.deal_id for update of h`),
    { id, ids: asArray(ids) },
  );
}

/** Deals with the parts that the reader names, all unless told otherwise, in one round trip. Unknown ids are left out. */
export async function loadDeals<Name extends DealPartName = DealPartName>(
  connection: Connection,
  ids: readonly DealId[],
  names: readonly Name[] = DEAL_PART_NAMES as readonly Name[],
): Promise<readonly DealWith<Name>[]> {
  const rows = await loadRows<HeadRow>(connection, ids, names, '', '');
  return rows.map((row) => toDeal(row, names));
}

/** The same of one deal, with the mark of its version's setting; null where there is none. */
export async function loadDeal<Name extends DealPartName>(
  connection: Connection,
  id: DealId,
  names: readonly Name[],
): Promise<{ readonly deal: DealWith<Name>; readonly mark: string | null } | null> {
  const [row] = await loadRows<HeadRow & { mark: string | null }>(connection, [id], names, `${MARK} as mark, `, MARKED);
  if (!row) return null;
  const { mark, ...rest } = row;
  return { deal: toDeal(rest, names), mark };
}

/** The rows of deals with the parts that are named, and with what else is selected. */
export function loadRows<Row>(
  connection: Connection,
  ids: readonly DealId[],
  names: readonly DealPartName[],
  besides: string,
  from: string,
): Promise<Row[]> {
  const parts = storedParts(names);
  const columns = Object.entries(Object.assign({}, HEAD, ...parts.map(({ select }) => select)));
  return sql<Row>(
    connection,
    kept(`select ${besides}${columns.map(([name, column]) => `${column} as "${name}"`).join(', ')}
     from deals d join deal_heads h on h.deal_id = d.id ${followedBy('d')} ${parts.map((part) => part.from).join(' ')} ${from}
     where d.id = any(:ids::uuid[]) order by d.id`),
    { ids: asArray(ids) },
  );
}

/** Makes of a row what it stands for. */
export function toDeal<Name extends DealPartName>(row: HeadRow, names: readonly Name[]): DealWith<Name> {
  const deal = withStatus(row);
  return Object.assign(deal, ...storedParts(names).map(({ read }) => read?.(deal as never))) as DealWith<Name>;
}

/* What is added comes before what is spread: behind it, it would give each object a shape of its own, and reading it would be slow. */
function withStatus({
  state,
  closedAt,
  closedDay,
  reason,
  followUp,
  outcome,
  estimate,
  ...deal
}: HeadRow): DealWith<never> {
  return { status: statusOf({ state, closedAt, closedDay, reason, followUp, outcome, estimate }), ...deal };
}

type StatusColumns = Pick<HeadRow, 'state' | 'closedAt' | 'closedDay' | 'reason' | 'followUp' | 'outcome' | 'estimate'>;

function statusOf({ state, closedAt, closedDay, reason, followUp, outcome, estimate }: StatusColumns): DealStatus {
  const at = closedAt ?? 0;
  if (state === 'open') return { state };
  if (state === 'voided') return { state, at };
  return { state, outcome: outcome ?? state, at, day: closedDay ?? '', reason, followUp, estimate };
}
