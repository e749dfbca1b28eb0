import { type NameOf, namesWith } from '@ladder/core';
import { useGetDocumentKindsQuery } from '../documents/documentsApi.ts';
import { useDesign } from './designContext.ts';

/** Names of what a document's requirements speak of: its stages, steps and results, and kinds of documents. */
export function useDesignNames(): NameOf {
  const { document } = useDesign();
  const { data: kinds } = useGetDocumentKindsQuery();
  return namesWith(document, (id) => kinds?.items.find((kind) => kind.id === id)?.name);
}
