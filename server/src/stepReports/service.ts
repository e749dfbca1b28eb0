import type { compliance as contract, TypeOf } from '@ladder/contract';
import { addDays, daysBetween, localDay, type ProcessId, type Stage, type StageId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { stageNames } from '../compliance/repository.ts';
import { type Context, inReport, inTransaction } from '../context.ts';
import { type ListMark, marksOf } from '../db/listOrder.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { invalid } from '../problems/problem.ts';
import { getMeasured } from '../processes/service.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import {
  countAtHand,
  countDone,
  countLate,
  DONE_ORDER,
  findRuns,
  LATE_ORDER,
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

/** Where open deals stand by the steps of a process, and the period that what was done is counted over. */
export async function getWork(
  context: Context,
  person: Person,
  process: ProcessId,
  query: WorkFilter & PeriodQuery,
): Promise<Work> {
  return inReport(context, async (tx) => {
    const { name, live } = await getMeasured(tx, person, process);
    const { today, ...period } = await periodOf(tx, context.clock.now(), query);
    const rows = await countAtHand(tx, person, process, today, query);
    const { stages, order, called } = await placesOf(tx, process, live?.stages ?? [], rows);
    const sorted = rows.toSorted(
      (a, b) =>
        placeOf(order.stages, a.stage) - placeOf(order.stages, b.stage) ||
        placeOf(order.steps, a.step) - placeOf(order.steps, b.step) ||
        called.step(a).localeCompare(called.step(b)),
    );
    const stageOfRow = placedStage(stages);
    const standing = sorted.map((row) => ({ ...row, name: called.step(row), stage: stageOfRow(row.stage) }));
    return { process: { id: process, name }, today, ...period, standing };
  });
}

interface PageQuery {
  readonly after?: string;
  readonly limit?: number;
}

/** What was done in a period, of the steps of a process, a page at a time. */
export async function listDone(
  context: Context,
  person: Person,
  process: ProcessId,
  query: WorkFilter & PeriodQuery & PageQuery,
): Promise<TypeOf<typeof contract.stepsDonePage>> {
  return inReport(context, async (tx) => {
    const { live } = await getMeasured(tx, person, process);
    const { today: _today, ...period } = await periodOf(tx, context.clock.now(), query);
    const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, marksOf(DONE_ORDER))];
    const order = orderOf(live?.stages ?? []);
    const rows = await countDone(tx, person, process, period, query, order, limit + 1, cursor);
    const { stages, called } = await placesOf(tx, process, live?.stages ?? [], rows);
    const stageOfRow = placedStage(stages);
    return toPage(rows, limit, markOf, ({ stage, step, person: id, by, result, count, late }) => ({
      stage: stageOfRow(stage),
      step,
      name: called.step({ stage, step }),
      person: { id, name: by },
      result,
      resultName: called.result({ stage, step, result }),
      count,
      late,
    }));
  });
}

/** What is past due in all processes that the person sees, a page at a time. */
export async function listPastDue(
  context: Context,
  person: Person,
  query: WorkFilter & PageQuery,
): Promise<TypeOf<typeof contract.pastDuePage>> {
  return inReport(context, async (tx) => {
    const now = context.clock.now();
    const today = localDay(now, (await organisation(tx)).timeZone);
    const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, marksOf(LATE_ORDER))];
    const rows = await countLate(tx, person, today, now, query, limit + 1, cursor);
    return toPage(rows, limit, markOf, (row) => ({
      process: { id: row.process, name: row.process_name },
      team: named(row.team, row.team_name),
      person: named(row.person, row.person_name),
      lateSteps: row.late_steps,
      lateDeals: row.late_deals,
      pastTarget: row.past_target,
    }));
  });
}

const markOf = ({ mark }: { readonly mark: ListMark }): ListMark => mark;

interface CountedStep {
  readonly stage: StageId;
  readonly step: string;
  readonly result?: string;
}

/** The order of stages and steps, as the live version has them. */
const orderOf = (live: readonly Stage[]) => ({
  stages: live.map(({ id }) => id),
  steps: live.flatMap(({ steps }) => steps.map(({ id }) => id)),
});

/** How the stages and steps of rows are called and in which order they stand, those of older versions last. */
async function placesOf(tx: EntityManager, process: ProcessId, live: readonly Stage[], rows: readonly CountedStep[]) {
  const stages = await stageNames(
    tx,
    process,
    live,
    rows.map(({ stage }) => stage),
  );
  return {
    stages,
    order: { ...orderOf(live), stages: stages.map(({ id }) => id) },
    called: await stepNames(tx, process, live, rows),
  };
}

const named = (id: string | null, name: string | null) => (id === null ? null : { id, name: name ?? 'Unknown' });

type Stages = readonly { readonly id: StageId; readonly name: string }[];

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

export interface ListQuery extends RunsQuery, PeriodQuery, PageQuery {}

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
