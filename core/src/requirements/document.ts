import { atLeast } from '../criteria/satisfy/claim.ts';
import type { ItemBase } from './item.ts';
import type { RequirementKind } from './kind.ts';

interface DocumentItem extends ItemBase {
  readonly kind: 'document';
  /** A kind of document. */
  readonly document: string;
}

/** A document of a kind is attached, and was not removed. */
export const documentKind: RequirementKind<DocumentItem, 'requirement', 'document'> = {
  kind: 'document',
  written: 'requirement',
  finding: { kind: 'document', name: 'Document missing' },
  shape: { document: { is: 'key' } },
  wording: [],
  needs: () => ['documents'],
  judge: ({ document }, { documentCounts }) => ({
    state: (documentCounts?.[document] ?? 0) > 0 ? 'met' : 'missing',
    explanation: null,
  }),
  remedy: ({ document }) => ({ kind: 'attach', document }),
  asks: ({ document }, _catalogue, nameOf) => [
    { text: nameOf(document) ?? 'A kind of document that is gone', strong: true },
    { text: ' is attached', strong: false },
  ],
  actual: (_item, { state }) => (state === 'met' ? 'attached' : 'not attached'),
  compile: ({ document }) => ({
    as: 'test',
    test: ({ facts }) => ((facts.documentCounts?.[document] ?? 0) > 0 ? true : null),
  }),
  turns: () => [],
  reads: () => [],
  criteria: () => [],
  met: ({ document }) => atLeast({ of: 'documents', document }, 1),
  problems({ document }, _catalogue, pointer, nameOf) {
    const detail = document === '' ? 'Choose the kind of document.' : 'This kind of document is gone. Choose another.';
    return nameOf(document) === undefined ? [{ pointer: `${pointer}/document`, detail }] : [];
  },
};
