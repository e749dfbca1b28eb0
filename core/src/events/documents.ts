import { type EventKind, plain, strong } from './event.ts';

interface OfDocument {
  readonly document: string;
  /** Which kind of document it is. */
  readonly of: string;
}

const documentEvent = <Kind extends string>(kind: Kind, words: string): EventKind<Kind, OfDocument> => ({
  kind,
  shape: { document: { is: 'id' }, of: { is: 'key' } },
  says: ({ of }, { nameOf }) => [strong(nameOf(of) ?? 'Document'), plain(` ${words}`)],
});

/* How a document is called stands apart as the entry's free text, so that it can be erased (S57). */
const attached = documentEvent('document_attached', 'attached');
const removed = documentEvent('document_removed', 'removed');

export const DOCUMENT_EVENTS = [attached, removed] as const;
