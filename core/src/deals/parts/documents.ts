import type { Instant } from '../../time/day.ts';
import type { Actor } from '../actor.ts';
import type { FactPart } from './part.ts';

/** A document as the deal knows it; its bytes are kept apart. */
export interface DealDocument {
  readonly id: string;
  /** Which kind of document it is. */
  readonly kind: string;
  readonly name: string;
  /** As found from its bytes. */
  readonly mediaType: string;
  readonly bytes: number;
  /** SHA-256 of its bytes, in hexadecimal. */
  readonly digest: string;
  readonly at: Instant;
  readonly by: Actor;
  /** Null while it is attached. */
  readonly removed: { readonly at: Instant; readonly by: Actor } | null;
}

export interface DocumentsCarried {
  /** In the order in which they were attached. */
  readonly documents: readonly DealDocument[];
}

type Counts = Readonly<Record<string, number>>;

interface DocumentsRead {
  /** How many of each kind are attached; null where that was not recorded. */
  readonly documentCounts: Counts | null;
}

/** Documents, attached and removed. */
export const documentsPart: FactPart<DocumentsCarried, DocumentsRead, { readonly documentCounts?: Counts }> = {
  begins: { documents: [] },
  facts: (deal) => ({ documentCounts: countsOf(deal) }),
  keep: (deal) => ({ documentCounts: countsOf(deal) }),
  recall: ({ documentCounts = null }) => ({ documentCounts }),
};

function countsOf({ documents }: DocumentsCarried): Counts {
  const counts: Record<string, number> = {};
  for (const { kind, removed } of documents) if (removed === null) counts[kind] = (counts[kind] ?? 0) + 1;
  return counts;
}
