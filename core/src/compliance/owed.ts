import { type Deal, type PathStep, presentVisit } from '../deals/deal.ts';
import { type GateItem, itemsOf, itemsToEnter, itemsToLeave } from '../gate/item.ts';
import { type ProcessDocument, stageOf } from '../processes/document.ts';
import type { FindingOrigin } from './finding.ts';

/** A requirement that the deal must go on meeting, and why. */
export interface OwedItem {
  readonly item: GateItem;
  readonly origin: Extract<FindingOrigin, 'owed' | 'entry'>;
}

/**
 * What a deal owes (S15): what must stay so of each stage it entered, and of each stage it left forward; then, at flag
 * level, what a flagged skip left open, whether judged at the move or not. A deal that came back to a stage has not left
 * it any more: what the stage asks before leaving is then asked by the next gate, and owed no longer.
 */
export function owedItems(deal: Deal, document: ProcessDocument): readonly OwedItem[] {
  const owed = new Map<string, OwedItem>();
  const put = (items: readonly GateItem[], origin: OwedItem['origin']): void => {
    for (const item of items) if (!owed.has(item.id)) owed.set(item.id, { item, origin });
  };
  const { stage } = presentVisit(deal);
  for (const step of deal.path) put(mustStay(itemsOwedBy(step, stage, document)), 'owed');
  const all = itemsOf(document);
  for (const step of deal.path.filter(isFlaggedSkip)) {
    put(
      step.owes.flatMap((id) => all.get(id) ?? []).map((item) => ({ ...item, level: 'flag' as const })),
      'entry',
    );
  }
  return [...owed.values()];
}

const mustStay = (items: readonly GateItem[]): readonly GateItem[] =>
  items.filter(({ binds }) => binds === 'must_stay');

function itemsOwedBy(step: PathStep, present: string, document: ProcessDocument): readonly GateItem[] {
  const leftForward = (step.kind === 'forward' || step.kind === 'skip') && step.from !== present;
  const left = leftForward ? stageOf(document, step.from ?? '') : undefined;
  const entered = stageOf(document, step.to ?? '');
  return [...(left ? itemsToLeave(left) : []), ...(entered ? itemsToEnter(entered) : [])];
}

/** Whether the step jumped over stages and left something to be met. */
export const isFlaggedSkip = (step: PathStep): boolean =>
  step.kind === 'skip' && step.forced === 'no' && step.owes.length > 0;
