import { type MoveTarget, outcomeOf, stageOf } from '@ladder/core';
import type { DealDetail } from './dealsApi.ts';

/** What a target of a move is called; empty where the version has it no longer. */
export function rungName({ document }: Pick<DealDetail, 'document'>, target: MoveTarget): string {
  const rung = target.to === 'stage' ? stageOf(document, target.stage) : outcomeOf(document, target.outcome);
  return rung?.name ?? '';
}
