import { itemsToClose, itemsToEnter, itemsToLeave } from '../gate/item.ts';
import type { ProcessDocument } from '../processes/document.ts';
import type { GateItem } from '../requirements/kinds.ts';
import type { RemarkPlace } from './remark.ts';

/** What a deal that goes through the stages in order is asked at once. */
export interface DesignGate {
  /** What the gate leads into. */
  readonly into: string;
  /** Place of the stage it leaves; -1 as a deal begins. */
  readonly from: number;
  readonly items: readonly GateItem[];
  /** What must still be so from before. */
  readonly standing: readonly GateItem[];
}

/** The gates of a process in order: into each stage, then its ends. A deal that is lost passes over no stage (S8). */
export function gatesOf(document: ProcessDocument): readonly DesignGate[] {
  const { stages, outcomes } = document;
  const last = stages.length - 1;
  const leaving = (from: number): readonly GateItem[] => {
    const stage = stages[from];
    return stage ? itemsToLeave(stage) : [];
  };
  const standing = (from: number): readonly GateItem[] =>
    stages
      .slice(0, from + 1)
      .flatMap((stage, place) => [...itemsToEnter(stage), ...(place < from ? itemsToLeave(stage) : [])])
      .filter(({ binds }) => binds === 'must_stay');
  return [
    ...stages.map((stage, place): DesignGate => {
      const from = place - 1;
      return { into: stage.name, from, items: [...leaving(from), ...itemsToEnter(stage)], standing: standing(from) };
    }),
    ...outcomes.map((outcome): DesignGate => {
      const items = outcome.counts === 'won' ? [...leaving(last), ...itemsToClose(outcome)] : itemsToClose(outcome);
      return { into: outcome.name, from: last, items, standing: outcome.counts === 'won' ? standing(last) : [] };
    }),
  ];
}

/** Where an item is written down. */
export function placeOfItem(item: GateItem, document: ProcessDocument): RemarkPlace {
  if (item.stage) return { stage: item.stage, outcome: null, part: item.id };
  const outcome = document.outcomes.find(({ requirements }) => requirements.some(({ id }) => id === item.id));
  return { stage: null, outcome: outcome?.id ?? null, part: item.id };
}
