import type { Criterion } from '../criteria/criterion.ts';
import type { Target } from '../time/calendar.ts';

export const PROCESS_KINDS = ['deal', 'lead'] as const;
export type ProcessKind = (typeof PROCESS_KINDS)[number];

/** A requirement that is not met stops the move, or lets it pass and is recorded. */
export const LEVELS = ['hold', 'flag'] as const;
export type Level = (typeof LEVELS)[number];

/** Judged at the move only, or until the deal closes (S14). */
export const BINDINGS = ['at_move', 'must_stay'] as const;
export type Binding = (typeof BINDINGS)[number];

/** What a process says of jumping over stages, and of going back. */
export const RULES = ['allow', 'flag', 'hold'] as const;
export type Rule = (typeof RULES)[number];

interface RequirementBase {
  readonly id: string;
  readonly level: Level;
  readonly binds: Binding;
  /** Asked only where this holds, or may hold. */
  readonly appliesWhen?: Criterion;
  /** The administrator's own words to the seller. */
  readonly message?: string;
}

export type Requirement = RequirementBase &
  ({ readonly kind: 'criterion'; readonly criterion: Criterion } | { readonly kind: 'field'; readonly field: string });

export interface ChecklistItem {
  readonly id: string;
  readonly text: string;
  /** `must` items are asked before leaving, at their level; `optional` ones never. */
  readonly need: 'must' | 'optional';
  readonly level: Level;
  /** Ticked anew on every stay, or kept from an earlier one (S7). */
  readonly afterReturn: 'keep' | 'again';
}

export interface Stage {
  readonly id: string;
  readonly name: string;
  readonly purpose: string;
  /** Chance of winning from here, in whole percent. */
  readonly chance: number;
  readonly target: Target | null;
  readonly idleDays: number | null;
  readonly enter: readonly Requirement[];
  readonly leave: readonly Requirement[];
  readonly checklist: readonly ChecklistItem[];
}

export interface FieldSection {
  readonly id: string;
  readonly name: string;
  readonly fields: readonly string[];
}

/** One version of a process: the form that is stored, imported and exported. */
export interface ProcessDocument {
  readonly name: string;
  readonly purpose: string;
  readonly kind: ProcessKind;
  readonly currency: string;
  readonly sections: readonly FieldSection[];
  readonly skips: Rule;
  readonly returns: Rule;
  readonly stages: readonly Stage[];
  readonly won: { readonly requirements: readonly Requirement[] };
  readonly lost: { readonly requirements: readonly Requirement[] };
}

/** The stage's place on the ladder, 0 on top; -1 where the version has no such stage. */
export const placeOf = (document: ProcessDocument, stageId: string): number =>
  document.stages.findIndex((stage) => stage.id === stageId);

/** The stage with this id, if the version has it. */
export const stageOf = (document: ProcessDocument, stageId: string): Stage | undefined =>
  document.stages.find((stage) => stage.id === stageId);

/** An empty document of a new process: it works as it is, and every control is added later. */
export function newDocument(
  name: string,
  kind: ProcessKind,
  currency: string,
  firstStage: { id: string; name: string },
): ProcessDocument {
  return {
    name,
    kind,
    currency,
    purpose: '',
    sections: [
      { id: 'main', name: 'Deal', fields: ['customer', 'contact', 'value', 'close_date', 'source', 'next_action'] },
    ],
    skips: 'allow',
    returns: 'allow',
    stages: [newStage(firstStage.id, firstStage.name)],
    won: { requirements: [] },
    lost: { requirements: [] },
  };
}

/** A bare stage: no target, nothing asked. */
export const newStage = (id: string, name: string): Stage => ({
  id,
  name,
  purpose: '',
  chance: 0,
  target: null,
  idleDays: null,
  enter: [],
  leave: [],
  checklist: [],
});
