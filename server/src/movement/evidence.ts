import type { designCheck as contract, TypeOf } from '@ladder/contract';
import { addDays, countedMedian, localDay, type ProcessId, type StageEvidence } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inReport } from '../context.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { calendarOf } from '../setting/repository/settings.ts';
import { countClosed, countMoves, countSkipped, type Period } from './repository.ts';
import { isMeasured } from './service.ts';

const YEAR_DAYS = 365;

/** How deals of the past year went through the stages of a process: what the design check goes by. */
export const getEvidence = (
  context: Context,
  person: Person,
  process: ProcessId,
): Promise<TypeOf<typeof contract.evidence>> =>
  inReport(context, async (tx) => {
    if (!(await tx.getRepository(ProcessEntity).existsBy({ id: process }))) throw notFound('process');
    const to = localDay(context.clock.now(), (await organisation(tx)).timeZone);
    const stages = await stagesOf(tx, person, process, { from: addDays(to, -YEAR_DAYS), to });
    return { calendar: await calendarOf(tx, process), stages };
  });

async function stagesOf(
  tx: EntityManager,
  person: Person,
  process: ProcessId,
  period: Period,
): Promise<readonly StageEvidence[]> {
  const asked = { person, process, ...period, whose: {}, past: null };
  const moves = (await countMoves(tx, asked)).filter(({ kind }) => isMeasured(kind));
  const skipped = new Map((await countSkipped(tx, process, period)).map(({ stage, deals }) => [stage, deals]));
  const closed = new Map((await countClosed(tx, process, period)).map((row) => [row.stage, row]));
  const stages = new Set([
    ...moves.flatMap(({ from_stage, to_stage }) => [from_stage, to_stage]),
    ...skipped.keys(),
    ...closed.keys(),
  ]);
  return [...stages]
    .filter((stage) => stage !== null)
    .map((stage) => {
      const left = moves.filter(({ from_stage }) => from_stage === stage);
      return {
        stage,
        entered: sum(moves.filter(({ to_stage }) => to_stage === stage)),
        skipped: skipped.get(stage) ?? 0,
        staysEnded: sum(left),
        medianDays: countedMedian(left.map(({ days, count }) => ({ days: days ?? 0, count }))),
        closed: closed.get(stage)?.closed ?? 0,
        won: closed.get(stage)?.won ?? 0,
      };
    });
}

const sum = (rows: readonly { readonly count: number }[]): number =>
  rows.reduce((total, { count }) => total + count, 0);
