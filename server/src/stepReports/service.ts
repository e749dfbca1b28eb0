import type { compliance as contract, TypeOf } from '@ladder/contract';
import { addDays, daysBetween, localDay, type ProcessId, type StageId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { stageNames } from '../compliance/repository.ts';
import { type Context, inTransaction } from '../context.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { invalid } from '../problems/problem.ts';
import { getMeasured } from '../processes/service.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import {
  countAtHand,
  countDone,
  countLate,
  findRuns,
  type RunRow,
  type RunsQuery,
  type WorkFilter,
} from './repository.ts';
import { stepNames } from './stepNames.ts';

type Work = TypeOf<typeof contract.work>;

interface PeriodQuery {
  readonly from?: string;
  readonly to?: string;
}

const USUAL_DAYS = 30;

/** What was done in a period and what is late, of the steps of a process; lateness of all processes that the person sees. */
export async function getWork(
  context: Context,
  person: Person,
  process: ProcessId,
  query: WorkFilter & PeriodQuery,
): Promise<Work> {
  return inTransaction(context, async (tx) => {
    const detail = await getMeasured(tx, person, process);
    const now = context.clock.now();
    const { today, ...period } = await periodOf(tx, now, query);
    const done = await countDone(tx, person, process, period, query);
    const standing = await countAtHand(tx, person, process, today, query);
    const late = await countLate(tx, person, today, now, query);
    const used = [...done, ...standing];
    const stages = await stageNames(
      tx,
      process,
      detail.live?.stages ?? [],
      used.map(({ stage }) => stage),
    );
    const called = await stepNames(tx, process, detail.live?.stages ?? [], used);
    const stageOfRow = placedStage(stages);
    const steps = (detail.live?.stages ?? []).flatMap((stage) => stage.steps.map(({ id }) => id));
    const stageIds = stages.map(({ id }) => id);
    const order = <Row extends Placed>(rows: readonly Row[]): readonly Row[] =>
      rows.toSorted(
        (a, b) =>
          placeOf(stageIds, a.stage.id) - placeOf(stageIds, b.stage.id) ||
          placeOf(steps, a.step) - placeOf(steps, b.step) ||
          a.name.localeCompare(b.name),
      );
    return {
      process: { id: process, name: detail.name },
      today,
      ...period,
      done: order(
        done.map(({ person: id, by, ...row }) => ({
          ...row,
          name: called.step(row),
          resultName: called.result(row),
          stage: stageOfRow(row.stage),
          person: { id, name: by ?? 'Unknown' },
        })),
      ),
      standing: order(standing.map((row) => ({ ...row, name: called.step(row), stage: stageOfRow(row.stage) }))),
      late: late.map((row) => ({
        process: { id: row.process, name: row.process_name },
        team: named(row.team, row.team_name),
        person: named(row.person, row.person_name),
        lateSteps: row.late_steps,
        lateDeals: row.late_deals,
        pastTarget: row.past_target,
      })),
    };
  });
}

const named = (id: string | null, name: string | null) => (id === null ? null : { id, name: name ?? 'Unknown' });

type Stages = readonly { readonly id: StageId; readonly name: string }[];

interface Placed {
  readonly stage: { readonly id: StageId };
  readonly step: string;
  readonly name: string;
}

/** Where it stands among others; what is gone stands last. */
const placeOf = (ids: readonly string[], id: string): number => (ids.includes(id) ? ids.indexOf(id) : ids.length);

const placedStage =
  (stages: Stages) =>
  (id: StageId): { id: StageId; name: string } => ({
    id,
    name: stages.find((stage) => stage.id === id)?.name ?? 'A stage that is gone',
  });

async function periodOf(
  tx: EntityManager,
  now: number,
  { from, to }: PeriodQuery,
): Promise<{ today: string; from: string; to: string }> {
  const today = localDay(now, (await organisation(tx)).timeZone);
  const period = { today, from: from ?? addDays(to ?? today, -USUAL_DAYS), to: to ?? today };
  if (period.from > period.to) throw invalid([{ pointer: '/query/from', detail: 'The period begins after it ends.' }]);
  return period;
}

export interface ListQuery extends RunsQuery, PeriodQuery {
  readonly after?: string;
  readonly limit?: number;
}

/** The runs behind a number, a page of them, each leading to its deal. */
export async function listRuns(
  context: Context,
  person: Person,
  process: ProcessId,
  query: ListQuery,
): Promise<unknown> {
  return inTransaction(context, async (tx) => {
    const detail = await getMeasured(tx, person, process);
    const { today, ...period } = await periodOf(tx, context.clock.now(), query);
    const limit = query.limit ?? DEFAULT_LIMIT;
    const cursor = readCursor(query.after, ['text', 'id', 'number']);
    const rows = await findRuns(tx, person, process, today, period, query, limit + 1, cursor);
    const stages = await stageNames(
      tx,
      process,
      detail.live?.stages ?? [],
      rows.map(({ stage }) => stage),
    );
    return toPage(
      rows,
      limit,
      ({ day, deal, seq }) => [day, deal, seq],
      (row) => presentRun(row, today, placedStage(stages)),
    );
  });
}

function presentRun(
  { deal, deal_name: name, owner, seq, stage, name: step, result, person, due, day }: RunRow,
  today: string,
  stageOfRow: ReturnType<typeof placedStage>,
) {
  const until = result === null ? today : day;
  return {
    deal: { id: deal, name, owner },
    seq,
    stage: stageOfRow(stage),
    step,
    result,
    person,
    dueDay: due,
    doneDay: result === null ? null : day,
    daysLate: due === null ? 0 : Math.max(0, daysBetween(due, until)),
  };
}
