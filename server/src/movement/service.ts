import type { compliance as contract, TypeOf } from '@ladder/contract';
import type { ProcessId, StageId } from '@ladder/core';
import {
  addDays,
  type Calendar,
  calendarDaysOf,
  countedMedian,
  localDay,
  type Stage,
  type StageCounts,
  type StepRunCount,
  stageMovement,
  stepMovement,
  wilson,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { stageNames } from '../compliance/repository.ts';
import { type Context, inTransaction } from '../context.ts';
import { stagesOfVersions } from '../deals/repository/lanes.ts';
import { openBook } from '../deals/repository/openBook.ts';
import { invalid } from '../problems/problem.ts';
import { getMeasured } from '../processes/service.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { calendarOf } from '../setting/repository/settings.ts';
import {
  countMoves,
  countOpen,
  countRuns,
  type MoveCount,
  type MovementQuery,
  type OpenCount,
  type RunCount,
  wonCycles,
} from './repository.ts';

type Movement = TypeOf<typeof contract.movement>;

const YEAR_DAYS = 365;

/** How deals moved in a period: counts from the moves that were made in it, and the open deals as they are now. */
export async function getMovement(
  context: Context,
  person: Person,
  process: ProcessId,
  query: MovementQuery,
): Promise<Movement> {
  return inTransaction(context, async (tx) => {
    const detail = await getMeasured(tx, person, process);
    const now = context.clock.now();
    const today = localDay(now, (await organisation(tx)).timeZone);
    const period = { from: query.from ?? addDays(today, -YEAR_DAYS), to: query.to ?? today };
    if (period.from > period.to)
      throw invalid([{ pointer: '/query/from', detail: 'The period begins after it ends.' }]);
    const moves = await countMoves(tx, person, process, period, query);
    const open = await countOpen(tx, openBook(person, process, { owner: query.owner, team: query.team }, now), today);
    const stages = detail.live?.stages ?? [];
    const runs = await named(tx, process, await countRuns(tx, person, process, period, query), stages);
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
      version: detail.live?.version ?? null,
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
        steps: stepsOf(id, runs, stages),
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

type NamedRun = RunCount & Pick<StepRunCount, 'name' | 'resultName'>;

/** Steps and results as the live version calls them, and those that are gone as the last version that had them did. */
async function named(
  tx: EntityManager,
  process: ProcessId,
  runs: readonly RunCount[],
  live: readonly Stage[],
): Promise<readonly NamedRun[]> {
  const isKnown = (run: RunCount): boolean => namesOf(run, live) !== null;
  const known = runs.every(isKnown) ? live : [...live, ...(await stagesOfVersions(tx, process))];
  return runs.map((run) => ({ ...run, ...(namesOf(run, known) ?? { name: run.step, resultName: run.result }) }));
}

function namesOf(
  { stage, step, result }: RunCount,
  stages: readonly Stage[],
): Pick<NamedRun, 'name' | 'resultName'> | null {
  for (const { id, steps } of stages)
    for (const { id: stepId, name, results } of id === stage ? steps : []) {
      const ended = stepId === step ? results.find((one) => one.id === result) : undefined;
      if (ended) return { name, resultName: ended.name };
    }
  return null;
}

/** Figures of a stage's steps, in their order; those that the live version no longer has come last. */
function stepsOf(stage: StageId, runs: readonly NamedRun[], stages: readonly Stage[]) {
  const order = stages.find(({ id }) => id === stage)?.steps.map(({ id }) => id) ?? [];
  const place = (step: string): number => (order.includes(step) ? order.indexOf(step) : order.length);
  return stepMovement(runs.filter((run) => run.stage === stage)).toSorted((a, b) => place(a.step) - place(b.step));
}

/** A publish changed the stage, or a closed deal went on in its last: nobody moved a deal on. */
export const isMeasured = (kind: MoveCount['kind']): boolean => kind !== 'transfer' && kind !== 'reopen';

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
