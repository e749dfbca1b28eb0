import type { DayCountRow, MoveKind, ProcessId, StageId, StepRunCount } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/repository.ts';
import { sql } from '../db/sql.ts';
import { ofWhose } from '../deals/repository/openBook.ts';
import type { Person } from '../session/person.ts';

export interface MovementQuery {
  readonly from?: string;
  readonly to?: string;
  readonly owner?: string;
  readonly team?: string;
}

export interface MoveCount {
  readonly kind: MoveKind;
  readonly from_stage: StageId | null;
  readonly to_stage: StageId | null;
  readonly days: number | null;
  readonly count: number;
}

export interface Period {
  readonly from: string;
  readonly to: string;
}

/** Moves of the period by kind, stages and length of stay; a team's or owner's by whose the deal was at that moment (S32). */
export async function countMoves(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  period: Period,
  { owner, team }: MovementQuery,
): Promise<MoveCount[]> {
  const seen = visibleDeals(person);
  return sql<MoveCount>(
    tx,
    `select d.kind, d.from_stage, d.to_stage, d.stay_days as days, count(*)::int as count from moves d
     where d.counts and d.process_id = :process and d.day between :from and :to and ${seen.condition}
       and ${ofWhose({ owner, team })}
     group by 1, 2, 3, 4`,
    { ...seen.parameters, process, ...period, owner, team },
  );
}

export interface RunCount extends Omit<StepRunCount, 'name' | 'resultName'> {
  readonly stage: StageId;
}

/**
 * Runs of guided steps that ended with a result in the period, by stage, step, result and the days that they took; a team's or
 * owner's by whose the deal was as they ended (S32).
 */
export async function countRuns(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  period: Period,
  { owner, team }: MovementQuery,
): Promise<RunCount[]> {
  const seen = visibleDeals(person);
  return sql<RunCount>(
    tx,
    `select d.stage_id as stage, d.step, d.result, d.ended_day - d.begun_day as days, count(*)::int as count from step_runs d
     where d.how = 'result' and not d.taken_back and d.counts and d.process_id = :process and d.ended_day between :from and :to and ${seen.condition}
       and ${ofWhose({ owner, team })}
     group by 1, 2, 3, 4`,
    { ...seen.parameters, process, ...period, owner, team },
  );
}

export async function wonCycles(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  period: Period,
  { owner, team }: MovementQuery,
): Promise<DayCountRow[]> {
  const seen = visibleDeals(person);
  return sql<DayCountRow>(
    tx,
    `select d.closed_day - v.entered_day as days, count(*)::int as count from deals d join visits v on v.deal_id = d.id and v.seq = 1
     where d.process_id = :process and d.status = 'won' and d.closed_day between :from and :to and ${seen.condition}
       and ${ofWhose({ owner, team })} group by 1`,
    { ...seen.parameters, process, ...period, owner, team },
  );
}

/** Deals that a move took past a stage, by stage. */
export const countSkipped = (
  tx: EntityManager,
  process: ProcessId,
  { from, to }: Period,
): Promise<{ readonly stage: StageId; readonly deals: number }[]> =>
  sql(
    tx,
    `select o.stage, count(distinct m.deal_id)::int as deals from moves m, unnest(m.over_stages) o (stage)
     where m.counts and m.process_id = :process and m.day between :from and :to and m.kind in ('skip', 'won') group by 1`,
    { process, from, to },
  );

/** Deals that have closed, and how many of them were won, by each stage that they were in. */
export const countClosed = (
  tx: EntityManager,
  process: ProcessId,
  { from, to }: Period,
): Promise<{ readonly stage: StageId; readonly closed: number; readonly won: number }[]> =>
  sql(
    tx,
    `select v.stage_id as stage, count(distinct d.id)::int as closed, (count(distinct d.id) filter (where d.status = 'won'))::int as won
     from deals d join visits v on v.deal_id = d.id and not v.taken_back
     where d.process_id = :process and d.status in ('won', 'lost') and d.closed_day between :from and :to group by 1`,
    { process, from, to },
  );
