import type { VersionId } from '../ids.ts';
import type { ProcessDocument } from '../processes/document.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { substanceOf } from '../requirements/substance.ts';
import type { Instant } from '../time/day.ts';
import { itemsOf } from './item.ts';

/** What each requirement that a version changed was before, by its id; null where it was not asked. */
export type ChangedRequirements = Readonly<Record<string, GateItem | null>>;

/**
 * The days of grace of a publish, a fact of the publish (S28): until when what fails only because of it flags, and what
 * it changed of what it asks, by the version that deals came from.
 */
export interface Publish {
  readonly version: VersionId;
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
