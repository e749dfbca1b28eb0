import type { StageId } from '../ids.ts';
import type { ChecklistItem } from '../requirements/checklist.ts';
import type { Requirement } from '../requirements/kinds.ts';
import type { GuidedStep } from '../steps/step.ts';
import type { Arrival, TaskSet } from '../tasks/taskSet.ts';
import type { Target } from '../time/calendar.ts';

export const PROCESS_KINDS = ['deal', 'lead'] as const;
export type ProcessKind = (typeof PROCESS_KINDS)[number];

/** What a process says of jumping over stages, and of going back. */
export const RULES = ['allow', 'flag', 'hold'] as const;
export type Rule = (typeof RULES)[number];

export interface Stage {
  readonly id: StageId;
  readonly name: string;
  readonly purpose: string;
  /** Chance of winning from here, in whole percent. */
  readonly chance: number;
  readonly target: Target | null;
  readonly idleDays: number | null;
  readonly enter: readonly Requirement[];
  readonly leave: readonly Requirement[];
  readonly checklist: readonly ChecklistItem[];
  /** In order; the first begins as a deal arrives. */
  readonly steps: readonly GuidedStep[];
  /** What happens as a deal arrives, in order. */
  readonly arrival: readonly Arrival[];
}

/** What an end of a process counts as, whatever it is called: measures know these two alone. */
export const OUTCOME_COUNTS = ['won', 'lost'] as const;
export type OutcomeCount = (typeof OUTCOME_COUNTS)[number];

/** A way in which a process ends. */
export interface Outcome {
  readonly id: string;
  readonly name: string;
  readonly counts: OutcomeCount;
  readonly requirements: readonly Requirement[];
}

export interface FieldSection {
  readonly id: string;
  readonly name: string;
  readonly fields: readonly string[];
}

/** The form that this program writes. Older ones are read by `readDocument`. */
export const DOCUMENT_FORMAT = 4;

/** One version of a process: the form that is stored, imported and exported. */
export interface ProcessDocument {
  readonly format: typeof DOCUMENT_FORMAT;
  readonly name: string;
  readonly purpose: string;
  readonly kind: ProcessKind;
  readonly currency: string;
  readonly sections: readonly FieldSection[];
  readonly skips: Rule;
  readonly returns: Rule;
  readonly stages: readonly Stage[];
  /** How it ends: one at least counts as won, and one as lost. */
  readonly outcomes: readonly Outcome[];
  readonly taskSets: readonly TaskSet[];
}

/** The stage's place on the ladder, 0 on top; -1 where the version has no such stage. */
export const placeOf = (document: ProcessDocument, stageId: string): number =>
  document.stages.findIndex((stage) => stage.id === stageId);

/** The stage with this id, if the version has it. */
export const stageOf = (document: ProcessDocument, stageId: string): Stage | undefined =>
  document.stages.find((stage) => stage.id === stageId);

/** The set of tasks with this id, if the version has it. */
export const taskSetOf = (document: ProcessDocument, setId: string): TaskSet | undefined =>
  document.taskSets.find((set) => set.id === setId);

/** The outcome with this id, if the version has it. */
export const outcomeOf = (document: ProcessDocument, outcomeId: string): Outcome | undefined =>
  document.outcomes.find((outcome) => outcome.id === outcomeId);

const outcome = (id: string, name: string, counts: OutcomeCount): Outcome => ({ id, name, counts, requirements: [] });

/** How each kind of process ends before anyone says otherwise. */
export const USUAL_OUTCOMES: Readonly<Record<ProcessKind, readonly Outcome[]>> = {
  deal: [outcome('won', 'Won', 'won'), outcome('lost', 'Lost', 'lost')],
  lead: [outcome('qualified', 'Qualified', 'won'), outcome('disqualified', 'Disqualified', 'lost')],
};

/** An empty document of a new process: it works as it is, and every control is added later. */
export function newDocument(
  name: string,
  kind: ProcessKind,
  currency: string,
  firstStage: { id: StageId; name: string },
): ProcessDocument {
  return {
    format: DOCUMENT_FORMAT,
    name,
    kind,
    currency,
    purpose: '',
    sections: [
      {
        id: 'main',
        name: 'Deal',
        fields: ['customer', 'contact', 'value', 'close_date', 'source', 'next_action', 'next_action_day'],
      },
    ],
    skips: 'allow',
    returns: 'allow',
    stages: [newStage(firstStage.id, firstStage.name)],
    outcomes: USUAL_OUTCOMES[kind],
    taskSets: [],
  };
}

/** The stage that deals begin in unless told otherwise; a document that was checked has one. */
export function firstStage({ stages }: Pick<ProcessDocument, 'stages'>): StageId {
  const [first] = stages;
  if (!first) throw new Error('The process has no stage');
  return first.id;
}

/** A bare stage: no target, nothing asked. */
export const newStage = (id: StageId, name: string): Stage => ({
  id,
  name,
  purpose: '',
  chance: 0,
  target: null,
  idleDays: null,
  enter: [],
  leave: [],
  checklist: [],
  steps: [],
  arrival: [],
});
