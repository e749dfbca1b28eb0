import type { ProcessDocument, StageId } from '@ladder/core';
import { firstStage } from '@ladder/core';
import { useSearchParams } from 'react-router';

/** What the panel beside the design sheet shows. */
export type Selection =
  | { readonly kind: 'stage'; readonly stage: StageId }
  | { readonly kind: 'outcome'; readonly outcome: string }
  | { readonly kind: 'process' };

const NAME = 'at';

/** The selection stands in the address, so that it outlives going from the live version to a draft, and a reload. It is shown at once: what is typed next is meant for it. */
export function useSelection(document: ProcessDocument): [Selection, (selection: Selection) => void] {
  const [search, setSearch] = useSearchParams();
  const select = (selection: Selection) => setSearch({ [NAME]: toText(selection) }, { replace: true, flushSync: true });
  return [fromText(search.get(NAME), document), select];
}

/** The selection as it stands in the address. */
export function toText(selection: Selection): string {
  if (selection.kind === 'process') return 'process';
  return selection.kind === 'outcome' ? selection.outcome : `stage:${selection.stage}`;
}

/** Reads it; the first stage where nothing is chosen, or what was chosen is gone. */
export function fromText(text: string | null, document: ProcessDocument): Selection {
  if (text === 'process') return { kind: 'process' };
  const outcome = document.outcomes.find(({ id }) => text === id);
  if (outcome) return { kind: 'outcome', outcome: outcome.id };
  const named = document.stages.find(({ id }) => text === `stage:${id}`);
  return { kind: 'stage', stage: named?.id ?? firstStage(document) };
}
