import type { Requirement } from '../requirements/kinds.ts';
import { DOCUMENT_FORMAT, type ProcessDocument, type Stage } from './document.ts';

/** The third form: no sets of tasks, and nothing happened on arrival. */
interface ThirdDocument extends Omit<ProcessDocument, 'format' | 'stages' | 'taskSets'> {
  readonly format: 3;
  readonly stages: readonly Omit<Stage, 'arrival'>[];
}

/** The second form: stages had no guided steps. */
interface SecondDocument extends Omit<ThirdDocument, 'format' | 'stages'> {
  readonly format: 2;
  readonly stages: readonly Omit<Stage, 'steps' | 'arrival'>[];
}

/** The first form: no number, and the two ends of a deal as parts of their own. */
interface FirstDocument extends Omit<SecondDocument, 'format' | 'outcomes'> {
  readonly format?: 1;
  readonly won: { readonly requirements: readonly Requirement[] };
  readonly lost: { readonly requirements: readonly Requirement[] };
}

/** A document as it may be stored: every form that a version was ever published in. */
export type StoredDocument = ProcessDocument | ThirdDocument | SecondDocument | FirstDocument;

/**
 * A stored document in the form that this program works with. Versions stay as they were stored (S26): what a newer form
 * adds is added here, on reading. The very same object where there is nothing to add. Throws on a form of a newer program.
 */
export function readDocument(stored: StoredDocument): ProcessDocument {
  switch (stored.format) {
    case DOCUMENT_FORMAT:
      return stored;
    case 3:
      return fromThird(stored);
    case 2:
      return fromSecond(stored);
    case 1:
    case undefined:
      return fromSecond(fromFirst(stored));
    default:
      throw new RangeError(
        `A process document of format ${String((stored as { format: unknown }).format)} is of a newer program`,
      );
  }
}

const fromThird = (document: ThirdDocument): ProcessDocument => ({
  ...document,
  format: DOCUMENT_FORMAT,
  stages: document.stages.map((stage) => ({ ...stage, arrival: [] })),
  taskSets: [],
});

const fromSecond = (document: SecondDocument): ProcessDocument =>
  fromThird({ ...document, format: 3, stages: document.stages.map((stage) => ({ ...stage, steps: [] })) });

function fromFirst({ won, lost, ...document }: FirstDocument): SecondDocument {
  return {
    ...document,
    format: 2,
    outcomes: [
      { id: 'won', name: 'Won', counts: 'won', requirements: won.requirements },
      { id: 'lost', name: 'Lost', counts: 'lost', requirements: lost.requirements },
    ],
  };
}
