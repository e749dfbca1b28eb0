import type { Catalogue, DesignCheck, ProcessDocument, ProcessEdit, Reason } from '@ladder/core';
import { createContext, use } from 'react';

/** The document on the sheet, and how to change it; null where it is read only. */
export interface DesignView {
  readonly document: ProcessDocument;
  readonly catalogue: Catalogue;
  /** Why deals of the process end, as it is offered now. */
  readonly reasons: readonly Pick<Reason, 'id' | 'outcome' | 'name'>[];
  readonly edit: ((edit: ProcessEdit) => void) | null;
  /** Takes the last edit back. */
  readonly undo: (() => void) | null;
  /** What the design check says, where it has looked the document through. */
  readonly check: DesignCheck | null;
}

export const DesignContext = createContext<DesignView | null>(null);

export function useDesign(): DesignView {
  const view = use(DesignContext);
  if (!view) throw new Error('This part belongs on a design sheet.');
  return view;
}
