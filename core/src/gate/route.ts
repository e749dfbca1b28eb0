import type { StageId } from '../ids.ts';
import { OUTCOME_COUNTS, outcomeOf, type ProcessDocument, placeOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';

export type MoveTarget =
  | { readonly to: 'stage'; readonly stage: StageId }
  | { readonly to: 'outcome'; readonly outcome: string };

/** A closing is told by what its outcome counts as. `transfer` is the change of stage that a publish makes where the deal's own was removed; measures do not count it. `reopen` is where a closed deal goes on. */
export const MOVE_KINDS = ['start', 'forward', 'skip', 'return', ...OUTCOME_COUNTS, 'transfer', 'reopen'] as const;
export type MoveKind = (typeof MOVE_KINDS)[number];

/** What kind of move leads from a stage to a target, and which stages lie between. */
export type Route =
  | { readonly kind: 'forward' | 'return' | 'lost'; readonly over: readonly [] }
  | { readonly kind: 'skip' | 'won'; readonly over: readonly StageId[] };

export type RouteProblem =
  | { readonly code: 'same_stage' | 'no_such_outcome' }
  | { readonly code: 'no_such_stage'; readonly stage: StageId };

/**
 * The route from a stage. A move over stages in between is a skip; an outcome that counts as won passes over all stages
 * that are left, one that counts as lost over none (S8). Errors: the stage it is in, one or an outcome that the version
 * does not have.
 */
export function routeTo(document: ProcessDocument, from: StageId, target: MoveTarget): Result<Route, RouteProblem> {
  const here = placeOf(document, from);
  if (here < 0) return failed({ code: 'no_such_stage', stage: from });
  if (target.to === 'outcome') return closing(document, here, target.outcome);
  const there = placeOf(document, target.stage);
  if (there < 0) return failed({ code: 'no_such_stage', stage: target.stage });
  if (there === here) return failed({ code: 'same_stage' });
  if (there < here) return ok({ kind: 'return', over: [] });
  return ok(
    there === here + 1 ? { kind: 'forward', over: [] } : { kind: 'skip', over: idsBetween(document, here, there) },
  );
}

function closing(document: ProcessDocument, here: number, outcomeId: string): Result<Route, RouteProblem> {
  const outcome = outcomeOf(document, outcomeId);
  if (!outcome) return failed({ code: 'no_such_outcome' });
  return ok(
    outcome.counts === 'lost'
      ? { kind: 'lost', over: [] }
      : { kind: 'won', over: idsBetween(document, here, document.stages.length) },
  );
}

const idsBetween = (document: ProcessDocument, after: number, before: number): readonly StageId[] =>
  document.stages.slice(after + 1, before).map(({ id }) => id);

/** The stage or outcome that a plain "move on" leads to: the next rung, or from the last the first end that counts as won. */
export function nextTarget(document: ProcessDocument, from: StageId): MoveTarget {
  const next = document.stages[placeOf(document, from) + 1];
  if (next) return { to: 'stage', stage: next.id };
  return { to: 'outcome', outcome: document.outcomes.find(({ counts }) => counts === 'won')?.id ?? '' };
}

const STAGE = 'stage:';

/** A move's target as it is kept: an outcome's id, or `stage:` and a stage's. Ids of outcomes have no such beginning. */
export const targetText = (target: MoveTarget): string =>
  target.to === 'stage' ? `${STAGE}${target.stage}` : target.outcome;

/** Reads a kept target. */
export const targetFromText = (text: string): MoveTarget =>
  text.startsWith(STAGE)
    ? { to: 'stage', stage: text.slice(STAGE.length) as StageId }
    : { to: 'outcome', outcome: text };
