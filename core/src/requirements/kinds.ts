import { activitiesKind } from './activities.ts';
import { checklistKind } from './checklist.ts';
import { criterionKind } from './criterion.ts';
import { decisionKind } from './decision.ts';
import { documentKind } from './document.ts';
import { fieldKind } from './field.ts';
import type { RequirementKind, WrittenAs, WrittenIn } from './kind.ts';
import { stepKind } from './step.ts';
import { stepsKind } from './steps.ts';

/** Everything that a gate can ask. A new kind is a file of its own and its name here. */
export const REQUIREMENT_KINDS = [
  criterionKind,
  fieldKind,
  checklistKind,
  stepsKind,
  stepKind,
  documentKind,
  activitiesKind,
  decisionKind,
] as const;

type Kind = (typeof REQUIREMENT_KINDS)[number];
type ItemOf<K> = K extends RequirementKind<infer Item, WrittenIn, string> ? Item : never;

/** One thing that a gate asks. */
export type GateItem = ItemOf<Kind>;

/** One thing that a list of requirements says. */
export type Requirement = WrittenAs<ItemOf<Extract<Kind, { written: 'requirement' }>>>;

/** The kinds of findings about requirements. */
export type RequirementFindingKind = Kind['finding']['kind'];
