import type { compliance as contract, TypeOf } from '@ladder/contract';
import {
  addDays,
  type Calendar,
  calendarDaysOf,
  countedMedian,
  type DayCountRow,
  localDay,
  type MoveKind,
  type Stage,
  type StageCounts,
  stageMovement,
  wilson,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/dealAccess.ts';
import { complianceScope, stageNames } from '../compliance/repository.ts';
import { type Context, inTransaction } from '../context.ts';
import { sql } from '../db/sql.ts';
import { PAST_TARGET } from '../deals/standing.ts';
import { invalid } from '../problems/problem.ts';
import { getProcess } from '../processes/service.ts';
import { organisation } from '../session/organisation.ts';
import type { Person } from '../session/person.ts';
import { calendarOf } from '../setting/settings.ts';
import { nameOfVersion } from '../setting/versions.ts';

type Movement = TypeOf<typeof contract.movement>;

export interface MovementQuery {
  readonly from?: string;
  readonly to?: string;
  readonly owner?: string;
  readonly team?: string;
}

interface MoveCount {
  readonly kind: MoveKind;
  readonly from_stage: string | null;
  readonly to_stage: string | null;
  readonly days: number | null;
  readonly count: number;
}

const YEAR_DAYS = 365;

/** How deals moved in a period: counts from the moves that were made in it, and the open deals as they are now. */
export async function getMovement(
  context: Context,
  person: Person,
  process: string,
  query: MovementQuery,
): Promise<Movement> {
  return inTransaction(context, async (tx) => {
    const detail = await getProcess(tx, person, process);
    const today = localDay(context.clock.now(), (await organisation(tx)).timeZone);
    const period = { from: query.from ?? addDays(today, -YEAR_DAYS), to: query.to ?? today };
    if (period.from > period.to)
      throw invalid([{ pointer: '/query/from', detail: 'The period begins after it ends.' }]);
    const moves = await countMoves(tx, person, process, period, query);
    const open = await countOpen(tx, person, process, query, today, context.clock.now());
    const stages = detail.live?.document.stages ?? [];
    const calendar = await calendarOf(tx, process);
    const names = await stageNames(
      tx,
      process,
      stages,
      [
        ...moves.flatMap(({ from_stage, to_stage }) => [from_stage, to_stage]),
        ...open.map(({ stage }) => stage),
      ].filter((id) => id !== null),
    );
    const [won, lost] = [total(moves, ({ kind }) => kind === 'won'), total(moves, ({ kind }) => kind === 'lost')];
    return {
      process: { id: process, name: detail.name },
      version: detail.live && nameOfVersion(detail.live.version),
      ...period,
      won,
      lost,
      started: total(moves, ({ kind }) => kind === 'start'),
      winShare: wilson(won, won + lost),
      medianCycleDays: countedMedian(await wonCycles(tx, person, process, period, query)),
      stages: names.map(({ id, name }) => ({
        name,
        targetDays: targetOf(stages, id, calendar),
        ...stageMovement(countsOf(id, moves, open)),
      })),
    };
  });
}

/** A stage's target in calendar days, as stays are counted. */
function targetOf(stages: readonly Stage[], id: string, calendar: Calendar): number | null {
  const target = stages.find((stage) => stage.id === id)?.target ?? null;
  return target && calendarDaysOf(target, calendar);
}

const total = (moves: readonly MoveCount[], test: (move: MoveCount) => boolean): number =>
  moves.filter(test).reduce((sum, { count }) => sum + count, 0);

function countsOf(stage: string, moves: readonly MoveCount[], open: readonly OpenCount[]): StageCounts {
  const leaving = moves.filter(({ from_stage, kind }) => from_stage === stage && kind !== 'transfer');
  const now = open.find((row) => row.stage === stage);
  return {
    stage,
    entered: total(moves, ({ to_stage, kind }) => to_stage === stage && kind !== 'transfer'),
    movedOn: total(leaving, ({ kind }) => kind === 'forward' || kind === 'skip' || kind === 'won'),
    lost: total(leaving, ({ kind }) => kind === 'lost'),
    returned: total(leaving, ({ kind }) => kind === 'return'),
    stays: leaving.map(({ days, count }) => ({ days: days ?? 0, count })),
    openDeals: now?.deals ?? 0,
    openPastTarget: now?.past ?? 0,
  };
}

interface Period {
  readonly from: string;
  readonly to: string;
}

/** Moves of the period by kind, stages and length of stay; a team's or owner's by whose the deal was at that moment (S32). */
async function countMoves(
  tx: EntityManager,
  person: Person,
  process: string,
  period: Period,
  { owner, team }: MovementQuery,
): Promise<MoveCount[]> {
  const seen = visibleDeals(person);
  return sql<MoveCount>(
    tx,
    `select d.kind, d.from_stage, d.to_stage, d.stay_days as days, count(*)::int as count from moves d
     where d.counts and d.process_id = :process and d.day between :from and :to and ${seen.condition}
       and (:owner::uuid is null or d.owner_id = :owner::uuid) and (:team::uuid is null or d.team_id = :team::uuid)
     group by 1, 2, 3, 4`,
    { ...seen.parameters, process, ...period, owner, team },
  );
}

async function wonCycles(
  tx: EntityManager,
  person: Person,
  process: string,
  period: Period,
  { owner, team }: MovementQuery,
): Promise<DayCountRow[]> {
  const seen = visibleDeals(person);
  return sql<DayCountRow>(
    tx,
    `select d.closed_day - v.entered_day as days, count(*)::int as count from deals d join visits v on v.deal_id = d.id and v.seq = 1
     where d.process_id = :process and d.status = 'won' and d.closed_day between :from and :to and ${seen.condition}
       and (:owner::uuid is null or d.owner_id = :owner::uuid) and (:team::uuid is null or d.team_id = :team::uuid) group by 1`,
    { ...seen.parameters, process, ...period, owner, team },
  );
}

interface OpenCount {
  readonly stage: string;
  readonly deals: number;
  readonly past: number;
}

async function countOpen(
  tx: EntityManager,
  person: Person,
  process: string,
  query: MovementQuery,
  today: string,
  now: number,
): Promise<OpenCount[]> {
  const { condition, parameters } = complianceScope(person, process, query, now);
  const { now: _now, ...used } = parameters as Record<string, unknown>;
  return sql<OpenCount>(
    tx,
    `select d.stage_id as stage, count(*)::int as deals, count(*) filter (where ${PAST_TARGET})::int as past from deals d where ${condition} group by 1`,
    { ...used, today },
  );
}
