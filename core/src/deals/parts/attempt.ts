import type { Instant } from '../../time/day.ts';
import type { Actor } from '../actor.ts';
import type { DealPart } from './part.ts';

/** A forward move that was refused and whose gate still fails. */
export interface Attempt {
  readonly target: string;
  readonly at: Instant;
  readonly by: Actor;
}

export const attemptPart: DealPart<{ readonly attempt: Attempt | null }> = { begins: { attempt: null } };
