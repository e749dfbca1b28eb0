import type { Deal } from '../deals/deal.ts';
import type { PathStep } from '../deals/parts/path.ts';
import type { Publish } from '../gate/publish.ts';
import type { GateItem } from '../requirements/kinds.ts';
import type { Instant } from '../time/day.ts';

/** Grace for one requirement of one deal. */
export interface Grace {
  readonly until: Instant;
  /** The requirement as it was before: what failed by that already has no grace. */
  readonly before: GateItem | null;
}

/**
 * The graces that the deal has for a requirement which it owes since `step`: of each publish that moved it over after
 * that and changed the requirement, and of the transfer that brought it where it is asked. A later one ends none.
 */
export function gracesFor(
  deal: Deal,
  publishes: readonly Publish[],
  requirement: string,
  step: PathStep,
): readonly Grace[] {
  const transfer = step.graceUntil === null ? [] : [{ until: step.graceUntil, before: null }];
  if (publishes.length === 0) return transfer;
  const { versions: followed } = deal;
  const published = followed.flatMap(({ version, from }, place) => {
    const publish = publishes.find((candidate) => candidate.version === version);
    const changed = publish?.changed[followed[place - 1]?.version ?? ''];
    const isOlder = step.at <= from;
    return publish && changed && isOlder && requirement in changed
      ? [{ until: publish.graceUntil, before: changed[requirement] ?? null }]
      : [];
  });
  return [...transfer, ...published];
}
