import type { Explanation } from '../criteria/evaluate.ts';
import { evaluate } from '../criteria/evaluate.ts';
import type { Catalogue } from '../facts/field.ts';
import type { CurrencyPair } from '../money/money.ts';
import { type GateFacts, type ItemState, isOpen, type Remedy } from './item.ts';
import { kindNamed } from './kindOf.ts';
import type { GateItem } from './kinds.ts';
import { lackingFor, NOTHING_LACKING } from './lacking.ts';

export interface ItemVerdict<Item extends GateItem = GateItem> {
  readonly item: Item;
  readonly state: ItemState;
  readonly remedy: Remedy;
  /** Fields to fill before it is known whether the item applies at all. */
  readonly mayApply: readonly string[];
  /** Exchange rates to set before that is known. */
  readonly mayApplyRates: readonly CurrencyPair[];
  readonly explanation: Explanation | null;
  readonly found: string | null;
}

const NOTHING_TO_DO = {
  remedy: { kind: 'none' },
  mayApply: [],
  mayApplyRates: [],
  explanation: null,
  found: null,
} as const;

/** One item's state with its explanation and remedy. Unknown counts as missing, and an unknown `appliesWhen` applies (S2). */
export function judgeItem<Item extends GateItem>(
  item: Item,
  facts: GateFacts,
  catalogue: Catalogue,
): ItemVerdict<Item> {
  const applies = item.appliesWhen ? evaluate(item.appliesWhen, facts, catalogue) : null;
  if (applies?.result === false) return { item, state: 'not_applicable', ...NOTHING_TO_DO };
  const kind = kindNamed(item.kind);
  const judged = kind.judge(item, facts, catalogue);
  const state = isOpen(judged.state) && facts.waived.has(item.id) ? 'waived' : judged.state;
  const unclear = applies?.result === null ? lackingFor(applies, facts, catalogue) : NOTHING_LACKING;
  return {
    item,
    state,
    remedy: isOpen(state) ? kind.remedy(item, judged, facts, catalogue) : NOTHING_TO_DO.remedy,
    mayApply: unclear.fields,
    mayApplyRates: unclear.rates,
    explanation: judged.explanation,
    found: judged.found ?? null,
  };
}
