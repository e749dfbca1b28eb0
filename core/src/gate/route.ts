import { type ProcessDocument, placeOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';

export type MoveTarget =
  | { readonly to: 'stage'; readonly stage: string }
  | { readonly to: 'won' }
  | { readonly to: 'lost' };

/** `transfer` is the change of stage that a publish makes where the deal's own was removed; measures do not count it. */
export const MOVE_KINDS = ['start', 'forward', 'skip', 'return', 'won', 'lost', 'transfer'] as const;
export type MoveKind = (typeof MOVE_KINDS)[number];

/** What kind of move leads from a stage to a target, and which stages lie between. */
export type Route =
  | { readonly kind: 'forward' | 'return' | 'lost'; readonly over: readonly [] }
  | { readonly kind: 'skip' | 'won'; readonly over: readonly string[] };

export type RouteProblem = { readonly code: 'same_stage' } | { readonly code: 'no_such_stage'; readonly stage: string };

/**
 * The route from a stage. A move over stages in between is a skip; closing as won passes over all stages that are
 * left; closing as lost passes over none (S8). Errors: the stage it is in, a stage that the version does not have.
 */
export function routeTo(document: ProcessDocument, from: string, target: MoveTarget): Result<Route, RouteProblem> {
  const here = placeOf(document, from);
  if (here < 0) return failed({ code: 'no_such_stage', stage: from });
  if (target.to === 'lost') return ok({ kind: 'lost', over: [] });
  if (target.to === 'won') return ok({ kind: 'won', over: idsBetween(document, here, document.stages.length) });
  const there = placeOf(document, target.stage);
  if (there < 0) return failed({ code: 'no_such_stage', stage: target.stage });
  if (there === here) return failed({ code: 'same_stage' });
  if (there < here) return ok({ kind: 'return', over: [] });
  return ok(
    there === here + 1 ? { kind: 'forward', over: [] } : { kind: 'skip', over: idsBetween(document, here, there) },
  );
}

const idsBetween = (document: ProcessDocument, after: number, before: number): readonly string[] =>
  document.stages.slice(after + 1, before).map(({ id }) => id);

/** The stage or outcome that a plain "move on" leads to: the next rung, or won from the last. */
export function nextTarget(document: ProcessDocument, from: string): MoveTarget {
  const next = document.stages[placeOf(document, from) + 1];
  return next ? { to: 'stage', stage: next.id } : { to: 'won' };
}

/** A move's target as it is kept: `won`, `lost`, or `stage:` and its id. */
export const targetText = (target: MoveTarget): string => (target.to === 'stage' ? `stage:${target.stage}` : target.to);

/** Reads a kept target. */
export const targetFromText = (text: string): MoveTarget =>
  text === 'won' || text === 'lost' ? { to: text } : { to: 'stage', stage: text.slice('stage:'.length) };
