import { canonicalText } from '../canonicalText.ts';
import type { Field } from '../facts/field.ts';
import type { StageId, VersionId } from '../ids.ts';
import type { ProcessDocument, Stage } from '../processes/document.ts';
import type { GateItem } from '../requirements/kinds.ts';
import { substanceOf } from '../requirements/substance.ts';
import type { Instant } from '../time/day.ts';
import { itemsOf, itemsToClose, itemsToEnter, itemsToLeave } from './item.ts';

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

/**
 * Which open deals a publish may bring anything: none, where only words and figures changed; those that have been in
 * some stages, passed over them, or were refused a move; those of them alone that these requirements are or were in the way
 * of, where the stages ask nothing else otherwise; or all.
 */
export type PublishReach =
  | { readonly reach: 'none' }
  | { readonly reach: 'stages'; readonly stages: readonly StageId[] }
  | { readonly reach: 'requirements'; readonly stages: readonly StageId[]; readonly requirements: readonly string[] }
  | { readonly reach: 'all' };

/** A version, as far as what a publish reaches goes by it. */
export interface PublishedVersion {
  readonly document: ProcessDocument;
  readonly fields: readonly Field[];
}

/** How far the publish of a version over another reaches; what each asks of a deal, and works out for it, is all that is compared. */
export function publishReach(before: PublishedVersion, after: PublishedVersion): PublishReach {
  if (canonicalText(courseOf(before)) !== canonicalText(courseOf(after))) return { reach: 'all' };
  const changed = after.document.stages.flatMap((stage, place) => {
    const was = before.document.stages[place];
    return was && canonicalText(askedBy(was)) !== canonicalText(askedBy(stage)) ? [{ was, stage }] : [];
  });
  const stages = changed.map(({ stage }) => stage.id);
  if (changed.length === 0) return { reach: 'none' };
  const besideItems = (one: Stage): string => canonicalText([one.idleDays, stepsOf(one)]);
  if (changed.some(({ was, stage }) => besideItems(was) !== besideItems(stage))) return { reach: 'stages', stages };
  return { reach: 'requirements', stages, requirements: askedOtherwise(before.document, after.document) };
}

/** Ids of the requirements that one of the documents alone asks, or that they ask otherwise. */
const askedOtherwise = (before: ProcessDocument, after: ProcessDocument): readonly string[] => [
  ...new Set(
    [before, after].flatMap((one, place, both) => Object.keys(changedRequirements(one, both[1 - place] ?? one))),
  ),
];

/** What concerns deals wherever they stand: the order of the stages, how they may be passed, and how deals end. */
const courseOf = ({ document: { stages, outcomes, skips, returns }, fields }: PublishedVersion) => ({
  formulas: Object.fromEntries(fields.flatMap(({ id, formula }) => (formula ? [[id, formula]] : []))),
  stages: stages.map(({ id }) => id),
  outcomes: outcomes.map((outcome) => ({
    id: outcome.id,
    counts: outcome.counts,
    asks: itemsToClose(outcome).map(substance),
  })),
  skips,
  returns,
});

/** What a stage asks of the deals that are in it, have been or passed over it. */
const askedBy = (stage: Stage) => ({
  enter: itemsToEnter(stage).map(substance),
  leave: itemsToLeave(stage).map(substance),
  idleDays: stage.idleDays,
  steps: stepsOf(stage),
});

/** Which steps there are, in order, and which of them a return begins again: what deals in the stage go by. */
const stepsOf = ({ steps }: Stage) => steps.map(({ id, afterReturn }) => [id, afterReturn]);

const substance = (item: GateItem): string => substanceOf(item.kind, item);
