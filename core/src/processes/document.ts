import type { ChecklistItem } from '../requirements/checklist.ts';
import type { Requirement } from '../requirements/kinds.ts';
import type { Target } from '../time/calendar.ts';

export const PROCESS_KINDS = ['deal', 'lead'] as const;
export type ProcessKind = (typeof PROCESS_KINDS)[number];

/** What a process says of jumping over stages, and of going back. */
export const RULES = ['allow', 'flag', 'hold'] as const;
export type Rule = (typeof RULES)[number];

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
