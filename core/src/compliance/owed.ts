import type { Deal } from '../deals/deal.ts';
import type { FindingOrigin } from '../deals/finding.ts';
import type { PathStep } from '../deals/parts/path.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import { itemsOf, itemsToEnter, itemsToLeave } from '../gate/item.ts';
import { type ProcessDocument, stageOf } from '../processes/document.ts';
import type { GateItem } from '../requirements/kinds.ts';

/** A requirement that the deal must go on meeting, why, and since which move. */
export interface OwedItem {
  readonly item: GateItem;
  readonly origin: Extract<FindingOrigin, 'owed' | 'entry'>;
  readonly step: PathStep;
}

/**
 * What a deal owes (S15): what must stay so of each stage it entered, and of each stage it left forward; then, at flag
 * level, what a skip of a process that flags skips left open, whether judged at the move or not; then what was judged at
 * the move that led to the present stage and let it pass (S14). A deal that came back to a stage has not left it any
 * more: what the stage asks before leaving is then asked by the next gate, and owed no longer.
 */
export function owedItems(deal: Deal, document: ProcessDocument): readonly OwedItem[] {
  const owed = new Map<string, OwedItem>();
  const put = (items: readonly GateItem[], origin: OwedItem['origin'], step: PathStep): void => {
    for (const item of items) if (!owed.has(item.id)) owed.set(item.id, { item, origin, step });
  };
  const { stage, moveSeq } = presentVisit(deal);
  for (const step of deal.path) put(mustStay(itemsOwedBy(step, stage, document)), 'owed', step);
  const all = itemsOf(document);
  const named = (ids: readonly string[]): readonly GateItem[] => ids.flatMap((id) => all.get(id) ?? []);
  for (const step of deal.path) put(named(step.skipped).map(flagged), 'entry', step);
  const entry = deal.path.find(({ seq }) => seq === moveSeq);
  if (entry)
    put(
      named(entry.flagged).map((item) => (entry.kind === 'start' ? item : flagged(item))),
      'entry',
      entry,
    );
  return [...owed.values()];
}

const flagged = (item: GateItem): GateItem => ({ ...item, level: 'flag' });

const mustStay = (items: readonly GateItem[]): readonly GateItem[] =>
  items.filter(({ binds }) => binds === 'must_stay');

function itemsOwedBy(step: PathStep, present: string, document: ProcessDocument): readonly GateItem[] {
  const leftForward = (step.kind === 'forward' || step.kind === 'skip') && step.from !== present;
  const left = leftForward ? stageOf(document, step.from ?? '') : undefined;
  const entered = stageOf(document, step.to ?? '');
  return [...(left ? itemsToLeave(left) : []), ...(entered ? itemsToEnter(entered) : [])];
}
