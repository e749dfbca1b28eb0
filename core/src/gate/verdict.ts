import type { Catalogue } from '../facts/field.ts';
import { type GateFacts, type ItemState, isOpen } from '../requirements/item.ts';
import { type ItemVerdict, judgeItem } from '../requirements/judgeItem.ts';
import type { AskedItem } from './assemble.ts';

export const GATE_ANSWERS = ['passes', 'flags', 'holds'] as const;
export type GateAnswer = (typeof GATE_ANSWERS)[number];

export interface Verdict {
  readonly answer: GateAnswer;
  readonly items: readonly ItemVerdict<AskedItem>[];
}

/** The gate's answer with every item explained. */
export function judgeGate(items: readonly AskedItem[], facts: GateFacts, catalogue: Catalogue): Verdict {
  const judged = items.map((item) => judgeItem(item, facts, catalogue));
  return { answer: answerOf(judged), items: judged };
}

function answerOf(items: readonly ItemVerdict[]): GateAnswer {
  const open = items.filter(({ state }) => isOpen(state));
  if (open.some(({ item }) => item.level === 'hold')) return 'holds';
  return open.length > 0 ? 'flags' : 'passes';
}

/** A verdict as it is kept: states by requirement; the words are made when it is read. */
export interface KeptVerdict {
  readonly answer: GateAnswer;
  readonly items: readonly {
    readonly id: string;
    readonly level: string;
    readonly state: ItemState;
    readonly passedOver: boolean;
  }[];
}
