import type { MoveTarget } from '@ladder/core';

/** A rung's id where deals are dropped: an outcome, or a stage's id after a mark that no outcome has. */
export const rungId = (target: MoveTarget): string => (target.to === 'stage' ? `stage:${target.stage}` : target.to);

export const targetOfRung = (id: string): MoveTarget =>
  id === 'won' || id === 'lost' ? { to: id } : { to: 'stage', stage: id.slice('stage:'.length) };
