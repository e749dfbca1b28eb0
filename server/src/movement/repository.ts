import type { DayCountRow, MoveKind, ProcessId, StageId, StepRunCount } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { visibleDeals } from '../access/repository.ts';
import { at, sql } from '../db/sql.ts';
import { type Known, ofWhose, type WhoseFilter } from '../deals/repository/openBook.ts';
import type { Person } from '../session/person.ts';

export interface Period {
  readonly from: string;
  readonly to: string;
}

/** Whose moves of which process are counted, and when they were made; a team's or owner's by whose the deal was at that moment (S32). */
export interface MovesAsked extends Period {
  readonly person: Person;
  readonly process: ProcessId;
  readonly whose: WhoseFilter;
  /** The last instant of a period that has gone by, and by what is known of it; null for one that goes on today. */
  readonly past: { readonly end: number; readonly known: Known } | null;
}

/** Rows `d` that are counted, or taken off. */
interface Counted {
  readonly counts: 1 | -1;
  readonly rows: string;
}

/**
 * Moves that count: of a period that has gone by also closings of deals that were reopened since (S12); as it was known then also
 * what was taken back or voided since, and nothing that was written down since (S21).
 */
function countedMoves({ past }: MovesAsked): readonly Counted[] {
  const counting: Counted = { counts: 1, rows: 'moves d where d.counts' };
  if (past === null) return [counting];
  const dropped = (until: string): Counted => ({ counts: 1, rows: `moves d where not d.counts and ${until} > :end` });
  if (past.known === 'now')
    return [counting, dropped('d.taken_back_at is null and d.voided_at is null and d.reopened_at')];
  const late = 'd.recorded_at > d.happened_at and d.recorded_at > :end';
  return [
    counting,
    { counts: -1, rows: `moves d where d.counts and ${late}` },
    dropped('d.recorded_at <= :end and least(d.taken_back_at, d.voided_at, d.reopened_at)'),
  ];
}

/** Runs of steps that ended with a result; as it was known then also those whose result was taken back or voided since. */
function countedRuns({ past }: MovesAsked): readonly Counted[] {
  const counting: Counted = { counts: 1, rows: `step_runs d where d.how = 'result' and not d.taken_back and d.counts` };
  const dropped: Counted = { counts: 1, rows: 'dropped_results d where d.dropped_at > :end' };
  return past?.known === 'then' ? [counting, dropped] : [counting];
}

/** How many such rows there are of the days of a period, by columns that tell them apart. */
async function countBy<Row extends { readonly count: number }>(
  tx: EntityManager,
  { person, process, from, to, whose, past }: MovesAsked,
  counted: readonly Counted[],
  day: string,
  told: Readonly<Record<Exclude<keyof Row & string, 'count'>, string>>,
): Promise<Row[]> {
  const seen = visibleDeals(person);
  const names = Object.keys(told).join(', ');
  const columns = Object.entries(told).map(([name, column]) => `${column} as ${name}`);
  const parts = counted.map(
    ({ counts, rows }) => `select ${columns.join(', ')}, ${counts} * count(*) as count from ${rows}
      and d.process_id = :process and ${day} between :from and :to and ${seen.condition} and ${ofWhose(whose)} group by ${names}`,
  );
  return sql<Row>(
    tx,
    `select ${names}, sum(count)::int as count from (${parts.join(' union all ')}) parts group by ${names} having sum(count) <> 0`,
    { ...seen.parameters, process, from, to, ...whose, ...(past && { end: at(past.end) }) },
  );
}

export interface MoveCount {
  readonly kind: MoveKind;
  readonly from_stage: StageId | null;
  readonly to_stage: StageId | null;
  readonly days: number | null;
  readonly count: number;
}

/** Moves by kind, stages and length of stay. */
export const countMoves = (tx: EntityManager, asked: MovesAsked): Promise<MoveCount[]> =>
  countBy<MoveCount>(tx, asked, countedMoves(asked), 'd.day', {
    kind: 'd.kind',
    from_stage: 'd.from_stage',
    to_stage: 'd.to_stage',
    days: 'd.stay_days',
  });

export interface RunCount extends Omit<StepRunCount, 'name' | 'resultName'> {
  readonly stage: StageId;
}

/** Runs of guided steps that ended with a result, by stage, step, result and the days that they took. */
export const countRuns = (tx: EntityManager, asked: MovesAsked): Promise<RunCount[]> =>
  countBy<RunCount>(tx, asked, countedRuns(asked), 'd.ended_day', {
    stage: 'd.stage_id',
    step: 'd.step',
    result: 'd.result',
    days: 'd.ended_day - d.begun_day',
  });

/** Deals that were won, by the days since they had begun. */
export const wonCycles = (tx: EntityManager, asked: MovesAsked): Promise<DayCountRow[]> => {
  const won = countedMoves(asked).map(({ counts, rows }) => ({ counts, rows: `${rows} and d.kind = 'won'` }));
  return countBy<DayCountRow>(tx, asked, won, 'd.day', {
    days: 'd.day - (select v.entered_day from visits v where v.deal_id = d.deal_id and v.seq = 1)',
  });
};

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
    `select v.stage_id as stage, count(distinct m.deal_id)::int as closed, (count(distinct m.deal_id) filter (where m.kind = 'won'))::int as won
     from moves m join visits v on v.deal_id = m.deal_id and not v.taken_back
     where m.counts and m.kind in ('won', 'lost') and m.process_id = :process and m.day between :from and :to group by 1`,
    { process, from, to },
  );
