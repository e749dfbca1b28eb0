import type {
  ActivityKind,
  Attempt,
  Deal,
  DealStatus,
  Finding,
  PathStep,
  Span,
  Tick,
  Values,
  Visit,
  Waiver,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { asArray, type Connection, sql } from '../db/sql.ts';

interface DealRow {
  readonly id: string;
  readonly process: string;
  readonly version: string;
  readonly externalId: string | null;
  readonly name: string;
  readonly status: 'open' | 'won' | 'lost' | 'voided';
  readonly currency: string;
  readonly values: Values;
  readonly party_values: Values;
  readonly created_at: number;
  readonly closed_at: number | null;
  readonly closed_day: string | null;
  readonly reason: string | null;
  readonly follow_up: string | null;
  readonly revision: number;
  readonly last_activity_at: number | null;
  readonly activity_counts: Record<ActivityKind, number>;
  readonly close_date_moves: number;
  readonly move_count: number;
  readonly path: PathStep[];
  readonly attempt: Attempt | null;
  readonly settled_at: number;
  readonly visits: Visit[];
  readonly ticks: Tick[];
  readonly findings: (Finding & { readonly closedAt: number | string })[];
  readonly spans: Span[];
  readonly waivers: Waiver[];
}

const ms = (column: string): string => `(extract(epoch from ${column}) * 1000)::float8`;

/** Locks the heads of deals, in one order everywhere, so that writers wait for each other and never for ever (S34). */
export async function lockDeals(tx: EntityManager, ids: readonly string[]): Promise<void> {
  await sql(tx, `select deal_id from deal_heads where deal_id = any(:ids::uuid[]) order by deal_id for update`, {
    ids: asArray(ids),
  });
}

/** Deals with everything a command needs, in one round trip. Unknown ids are left out. */
export async function loadDeals(connection: Connection, ids: readonly string[]): Promise<readonly Deal[]> {
  const rows = await sql<DealRow>(
    connection,
    `select d.id, d.process_id as process, d.version_id as version, d.external_id as "externalId", d.name, d.status, d.currency, d.values,
       coalesce(cu.values, '{}') || coalesce(co.values, '{}') as party_values,
       ${ms('d.created_at')} as created_at, ${ms('d.closed_at')} as closed_at, d.closed_day::text, d.reason_id as reason,
       d.follow_up_day::text as follow_up, h.revision, ${ms('h.last_activity_at')} as last_activity_at, ${ms('h.settled_at')} as settled_at, d.activity_counts,
       d.close_date_moves, d.move_count, d.path, d.attempt, v.visits, t.ticks, f.findings, s.spans, w.waivers
     from deals d
     join deal_heads h on h.deal_id = d.id
     left join customers cu on cu.id = d.customer_id
     left join contacts co on co.id = d.contact_id
     left join lateral (select coalesce(json_agg(json_build_object('seq', seq, 'stage', stage_id, 'enteredAt', ${ms('entered_at')},
       'enteredDay', entered_day, 'leftAt', ${ms('left_at')}, 'leftDay', left_day, 'moveOnDay', move_on_day, 'moveSeq', move_seq,
       'takenBack', case when taken_back then 'yes' else 'no' end) order by seq), '[]') as visits from visits where deal_id = d.id) v on true
     left join lateral (select coalesce(json_agg(json_build_object('item', item, 'visitSeq', visit_seq, 'at', ${ms('ticked_at')}, 'by', ticked_by,
       'untickedAt', ${ms('unticked_at')}) order by ticked_at), '[]') as ticks from ticks where deal_id = d.id and unticked_at is null) t on true
     left join lateral (select coalesce(json_agg(json_build_object('key', key, 'kind', kind, 'level', level, 'origin', origin, 'requirement', requirement,
       'askedBy', asked_by, 'openedAt', ${ms('opened_at')}, 'closedAt', ${ms('closed_at')}) order by opened_at), '[]') as findings
       from findings where deal_id = d.id) f on true
     left join lateral (select coalesce(json_agg(json_build_object('aspect', aspect, 'value', value, 'from', ${ms('from_at')}, 'to', ${ms('to_at')}) order by from_at), '[]') as spans
       from deal_spans where deal_id = d.id and (to_at is null or aspect = 'version')) s on true
     left join lateral (select coalesce(json_agg(json_build_object('requirement', requirement, 'from', ${ms('from_at')}, 'to', ${ms('to_at')})), '[]') as waivers
       from waivers where deal_id = d.id and state = 'granted') w on true
     where d.id = any(:ids::uuid[]) order by d.id`,
    { ids: asArray(ids) },
  );
  return rows.map(toDeal);
}

function toDeal(row: DealRow): Deal {
  const {
    status: _status,
    party_values,
    created_at,
    last_activity_at,
    activity_counts,
    close_date_moves,
    move_count,
    settled_at,
    findings,
    ...rest
  } = row;
  const { closed_at: _at, closed_day: _day, reason: _reason, follow_up: _followUp, ...deal } = rest;
  return {
    ...deal,
    status: toStatus(row),
    partyValues: party_values,
    createdAt: created_at,
    lastActivityAt: last_activity_at,
    activityCounts: activity_counts,
    closeDateMoves: close_date_moves,
    moveCount: move_count,
    settledAt: settled_at,
    findings: findings.map((finding) => ({ ...finding, closedAt: Number(finding.closedAt) })),
  };
}

function toStatus({ status, closed_at, closed_day, reason, follow_up }: DealRow): DealStatus {
  if (status === 'open') return { state: 'open' };
  if (status === 'voided') return { state: 'voided', at: closed_at ?? 0 };
  return { state: status, at: closed_at ?? 0, day: closed_day ?? '', reason, followUp: follow_up };
}
