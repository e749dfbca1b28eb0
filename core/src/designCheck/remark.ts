import type { NameOf } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import type { StageId } from '../ids.ts';
import type { ProcessDocument } from '../processes/document.ts';
import type { ProcessEdit } from '../processes/edit.ts';
import type { StepRole } from '../steps/step.ts';
import type { Calendar } from '../time/calendar.ts';

/** A problem keeps a draft from being published, a warning is most likely not meant, a suggestion is common practice. */
export const REMARK_WEIGHTS = ['problem', 'warning', 'suggestion'] as const;
export type RemarkWeight = (typeof REMARK_WEIGHTS)[number];

/** Where a remark is about: a stage or an outcome, and what of it. All of the process where neither. */
export interface RemarkPlace {
  readonly stage: StageId | null;
  readonly outcome: string | null;
  /** The requirement, checklist item or step. */
  readonly part: string | null;
}

export const WHOLE_PROCESS: RemarkPlace = { stage: null, outcome: null, part: null };
export const inStage = (stage: StageId, part: string | null = null): RemarkPlace => ({ stage, outcome: null, part });

/** One thing that the design check has to say. */
export interface Remark {
  /** The same for the same thing about the same design: what was dismissed stays so, and comes back once the design says otherwise. */
  readonly key: string;
  readonly weight: RemarkWeight;
  readonly place: RemarkPlace;
  /** Why, in a sentence or two. */
  readonly says: string;
  /** Values that show it, in words. */
  readonly witness: string | null;
  readonly remedy: DesignRemedy | null;
}

/** How it is put right, where there is one plain way: edits of the draft, which can be undone like any other. */
export interface DesignRemedy {
  readonly name: string;
  readonly edits: readonly ProcessEdit[];
}

/** What the check goes by beside the document. */
export interface Design {
  readonly document: ProcessDocument;
  readonly catalogue: Catalogue;
  /** Names of what is not in the document: kinds of documents. What is gone has none. */
  readonly nameOf: NameOf;
  /** Whole days since 1970-01-01. */
  readonly today: number;
  /** Names of the people who may be given steps; null where that is not asked. */
  readonly people: readonly DesignPerson[] | null;
  /** By which targets in working days are counted. */
  readonly calendar: Calendar;
  /** How past deals went through each stage; empty where that is not asked. */
  readonly evidence: readonly StageEvidence[];
}

export interface DesignPerson {
  readonly id: string;
  readonly role: StepRole | 'administrator' | 'viewer';
}

/** How deals of the past year went through a stage of the process. */
export interface StageEvidence {
  readonly stage: StageId;
  readonly entered: number;
  readonly skipped: number;
  readonly staysEnded: number;
  /** Of the stays that ended, in calendar days. */
  readonly medianDays: number | null;
  /** Deals that were in the stage and have closed since. */
  readonly closed: number;
  readonly won: number;
}
