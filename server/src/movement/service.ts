import type { compliance as contract, TypeOf } from '@ladder/contract';
import type { ProcessId, StageId } from '@ladder/core';
import {
  addDays,
  type Calendar,
  calendarDaysOf,
  countedMedian,
  type Stage,
  type StageCounts,
  stageMovement,
  stepMovement,
  wilson,
} from '@ladder/core';
import { stageNames } from '../compliance/repository.ts';
import { type Context, inReport } from '../context.ts';
import { asOf } from '../deals/asOf.ts';
import { type Known, openBook, pastBook, type WhoseFilter } from '../deals/repository/openBook.ts';
import { countOpen, type OpenCounts } from '../deals/repository/openSums.ts';
import { invalid } from '../problems/problem.ts';
import { getMeasured, measuredBy } from '../processes/service.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { calendarOf } from '../setting/repository/settings.ts';
import { documentThen } from '../setting/repository/versions.ts';
import { type StepNames, stepNames } from '../stepReports/stepNames.ts';
import { countMoves, countRuns, type MoveCount, type RunCount, wonCycles } from './repository.ts';

type Movement = TypeOf<typeof contract.movement>;

const YEAR_DAYS = 365;

export interface MovementQuery extends WhoseFilter {
  readonly from?: string;
  readonly to?: string;
  /** By what is known now of a period that has gone by, unless by what was known at its end. */
  readonly known?: Known;
}

/** How deals moved in a period: counts from the moves that were made in it, and the open deals as they were at its end. */
export async function getMovement(
  context: Context,
  person: Person,
  process: ProcessId,
  query: MovementQuery,
): Promise<Movement> {
  return inReport(context, async (tx) => {
    const measured = await getMeasured(tx, person, process);
    const now = context.clock.now();
    const { owner, team, known = 'now' } = query;
    const { on: to, end } = asOf(query.to, now, (await organisation(tx)).timeZone, 'to');
    const period = { from: query.from ?? addDays(to, -YEAR_DAYS), to };
    if (period.from > to) throw invalid([{ pointer: '/query/from', detail: 'The period begins after it ends.' }]);
    const whose = { owner, team };
    const asked = { person, process, ...period, whose, past: end === null ? null : { end, known } };
    const moves = await countMoves(tx, asked);
    const book =
      end === null ? await openBook(tx, person, process, whose, now) : pastBook(person, process, whose, end, known);
    const open = await countOpen(tx, book, { by: ['stage'], measures: ['past'] }, to);
    const live = end === null ? measured.live : measuredBy(await documentThen(tx, process, end));
    const stages = live?.stages ?? [];
    const runs = await countRuns(tx, asked);
    const called = await stepNames(tx, process, stages, runs);
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
      process: { id: process, name: measured.name },
      version: live?.version ?? null,
      ...period,
      won,
      lost,
      started: total(moves, ({ kind }) => kind === 'start'),
      winShare: wilson(won, won + lost),
      medianCycleDays: countedMedian(await wonCycles(tx, asked)),
      stages: names.map(({ id, name }) => ({
        name,
        targetDays: targetOf(stages, id, calendar),
        ...stageMovement(countsOf(id, moves, open)),
        steps: stepsOf(id, runs, stages, called),
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

/** Figures of a stage's steps, in their order; those that the live version no longer has come last. */
function stepsOf(stage: StageId, runs: readonly RunCount[], stages: readonly Stage[], called: StepNames) {
  const order = stages.find(({ id }) => id === stage)?.steps.map(({ id }) => id) ?? [];
  const place = (step: string): number => (order.includes(step) ? order.indexOf(step) : order.length);
  const mine = runs
    .filter((run) => run.stage === stage)
    .map((run) => ({ ...run, name: called.step(run), resultName: called.result(run) }));
  return stepMovement(mine).toSorted((a, b) => place(a.step) - place(b.step));
}

/** A publish changed the stage, or a closed deal went on in its last: nobody moved a deal on. */
export const isMeasured = (kind: MoveCount['kind']): boolean => kind !== 'transfer' && kind !== 'reopen';

type OpenCount = OpenCounts<'stage', 'past'>;

function countsOf(stage: StageId, moves: readonly MoveCount[], open: readonly OpenCount[]): StageCounts {
  const leaving = moves.filter(({ from_stage, kind }) => from_stage === stage && isMeasured(kind));
  const now = open.find((row) => row.stage === stage);
  return {
    stage,
    entered: total(moves, ({ to_stage, kind }) => to_stage === stage && isMeasured(kind)),
    movedOn: total(leaving, ({ kind }) => kind === 'forward' || kind === 'skip' || kind === 'won'),
    lost: total(leaving, ({ kind }) => kind === 'lost'),
    returned: total(leaving, ({ kind }) => kind === 'return'),
    stays: leaving.map(({ days, count }) => ({ days: days ?? 0, count })),
    openDeals: now?.deals ?? 0,
    openPastTarget: now?.past ?? 0,
  };
}
