import { checkCriterion, type Problem } from '../criteria/check.ts';
import { type Criterion, fieldsReadBy } from '../criteria/criterion.ts';
import type { NameOf } from '../criteria/phrase.ts';
import { anyOf, type Claim } from '../criteria/satisfy/claim.ts';
import type { Catalogue } from '../facts/field.ts';
import type { Instant } from '../time/day.ts';
import { criterionParts } from './criterionParts.ts';
import { criterionTurns } from './criterionTurns.ts';
import type { GateFacts } from './item.ts';
import { kindNamed } from './kindOf.ts';
import type { GateItem, Requirement } from './kinds.ts';

/*
 * What an item is about as a whole: what its kind says, and what `appliesWhen`, which every kind may have, adds.
 */

/** Every criterion that is judged for the item. */
export const criteriaOf = (item: GateItem): readonly Criterion[] => [
  ...kindNamed(item.kind).criteria(item),
  ...(item.appliesWhen ? [item.appliesWhen] : []),
];

/** Ids of the fields that it asks for or reads. */
export const fieldsOf = (item: GateItem): readonly string[] => [
  ...kindNamed(item.kind).reads(item),
  ...(item.appliesWhen ? fieldsReadBy(item.appliesWhen) : []),
];

/** Names of the deal parts that it is judged by, as `needs` of a kind. */
export const needsOf = (item: GateItem): readonly string[] => [
  ...kindNamed(item.kind).needs(item),
  ...(item.appliesWhen ? criterionParts(item.appliesWhen) : []),
];

/** That it asks nothing more: it is met, or does not apply. Where it may apply it does (S2). */
export function passed(item: GateItem): Claim {
  const met = kindNamed(item.kind).met(item);
  return item.appliesWhen ? anyOf(met, { kind: 'truth', of: item.appliesWhen, among: [false] }) : met;
}

/** The instants after `facts.at` at which its state may change by the clock alone, in order, each once. */
export function turnsOf(item: GateItem, facts: GateFacts): readonly Instant[] {
  const turns = [
    ...kindNamed(item.kind).turns(item, facts),
    ...(item.appliesWhen ? criterionTurns(item.appliesWhen, facts) : []),
    ...waiverTurns(item, facts),
  ];
  return [...new Set(turns)].sort((a, b) => a - b);
}

/** When what is waived of it begins and ends. */
const waiverTurns = ({ id }: GateItem, { at, waivers }: GateFacts): readonly Instant[] =>
  (waivers ?? [])
    .filter(({ requirement }) => requirement === id)
    .flatMap(({ from, to }) => [from, to])
    .filter((turn) => turn > at && turn < Number.POSITIVE_INFINITY);

/** Everything wrong with a written requirement; stages, steps and results that have no name are not in its document. */
export function requirementProblems(
  requirement: Requirement,
  catalogue: Catalogue,
  pointer: string,
  nameOf: NameOf,
): readonly Problem[] {
  const { kind, appliesWhen } = requirement;
  return [
    ...kindNamed(kind).problems(requirement, catalogue, pointer, nameOf),
    ...(appliesWhen ? checkCriterion(appliesWhen, catalogue, `${pointer}/appliesWhen`, nameOf) : []),
  ];
}
