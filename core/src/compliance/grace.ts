import type { Deal, PathStep } from '../deals/deal.ts';
import { versionsFollowed } from '../deals/spans.ts';
import { itemsOf } from '../gate/item.ts';
import type { ProcessDocument } from '../processes/document.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { substanceOf } from '../requirements/substance.ts';
import type { Instant } from '../time/day.ts';

/** What each requirement that a version changed was before, by its id; null where it was not asked. */
export type ChangedRequirements = Readonly<Record<string, GateItem | null>>;

/**
 * The days of grace of a publish, a fact of the publish (S28): until when what fails only because of it flags, and what
 * it changed of what it asks, by the version that deals came from.
 */
export interface Publish {
  readonly version: string;
  readonly graceUntil: Instant;
  readonly changed: Readonly<Record<string, ChangedRequirements>>;
}

/** What a document asks otherwise than the one before it: words alone are no change. */
export function changedRequirements(before: ProcessDocument, after: ProcessDocument): ChangedRequirements {
  const old = itemsOf(before);
  return Object.fromEntries(
    [...itemsOf(after)].flatMap(([id, item]) => {
      const was = old.get(id) ?? null;
      return was && substanceOf(was.kind, was) === substanceOf(item.kind, item) ? [] : [[id, was]];
    }),
  );
}

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
  const followed = versionsFollowed(deal);
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
