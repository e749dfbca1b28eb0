import { fieldsReadBy } from '../criteria/criterion.ts';
import { type Explanation, evaluate } from '../criteria/evaluate.ts';
import type { Facts } from '../criteria/facts.ts';
import { sourceFields } from '../facts/calculate.ts';
import type { Catalogue } from '../facts/field.ts';
import { isEmpty } from '../facts/value.ts';
import type { AskedItem } from './assemble.ts';
import type { GateItem } from './item.ts';

/** What a gate reads: the facts, what is ticked, and what is waived. */
export interface GateFacts extends Facts {
  readonly ticked: ReadonlySet<string>;
  readonly waived: ReadonlySet<string>;
}

/** *missing* is unmet because something is not filled in; *unmet* is filled in and not enough. */
export const ITEM_STATES = ['met', 'unmet', 'missing', 'waived', 'not_applicable'] as const;
export type ItemState = (typeof ITEM_STATES)[number];

/** How an item can be put right, so that the screen can offer it in place. */
export type Remedy =
  | { readonly kind: 'none' }
  | { readonly kind: 'fill'; readonly fields: readonly string[] }
  | { readonly kind: 'tick'; readonly item: string }
  | { readonly kind: 'decide' };

export interface ItemVerdict<Item extends GateItem = GateItem> {
  readonly item: Item;
  readonly state: ItemState;
  readonly remedy: Remedy;
  /** Fields to fill before it is known whether the item applies at all. */
  readonly mayApply: readonly string[];
  readonly explanation: Explanation | null;
}

export type GateAnswer = 'passes' | 'flags' | 'holds';

export interface Verdict {
  readonly answer: GateAnswer;
  readonly items: readonly ItemVerdict<AskedItem>[];
}

/** Whether the item is in the way of a move. */
export const isOpen = (state: ItemState): boolean => state === 'unmet' || state === 'missing';

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

/** One item's state with its explanation and remedy. Unknown counts as missing, and an unknown `appliesWhen` applies (S2). */
export function judgeItem<Item extends GateItem>(
  item: Item,
  facts: GateFacts,
  catalogue: Catalogue,
): ItemVerdict<Item> {
  const applies = item.appliesWhen ? evaluate(item.appliesWhen, facts, catalogue).result : true;
  if (applies === false)
    return { item, state: 'not_applicable', remedy: { kind: 'none' }, mayApply: [], explanation: null };
  const explanation = item.kind === 'criterion' ? evaluate(item.criterion, facts, catalogue) : null;
  const judged = stateOf(item, facts, explanation);
  const state = isOpen(judged) && facts.waived.has(item.id) ? 'waived' : judged;
  const mayApply = applies === null && item.appliesWhen ? unfilled(fieldsReadBy(item.appliesWhen), facts) : [];
  return {
    item,
    state,
    remedy: isOpen(state) ? remedyFor(item, facts, catalogue, state) : { kind: 'none' },
    mayApply,
    explanation,
  };
}

function stateOf(item: GateItem, facts: GateFacts, explanation: Explanation | null): ItemState {
  switch (item.kind) {
    case 'criterion':
      return explanation?.result === true ? 'met' : explanation?.result === false ? 'unmet' : 'missing';
    case 'field':
      return isEmpty(facts.values[item.field]) ? 'missing' : 'met';
    case 'checklist':
      return facts.ticked.has(item.id) ? 'met' : 'unmet';
    case 'decision':
      return 'unmet';
  }
}

function remedyFor(item: GateItem, facts: GateFacts, catalogue: Catalogue, state: ItemState): Remedy {
  switch (item.kind) {
    case 'field':
      return fill([item.field], catalogue);
    case 'checklist':
      return { kind: 'tick', item: item.id };
    case 'decision':
      return { kind: 'decide' };
    case 'criterion': {
      const read = fieldsReadBy(item.criterion);
      const empty = unfilled(read, facts);
      return fill(state === 'missing' && empty.length > 0 ? empty : read, catalogue);
    }
  }
}

const unfilled = (fields: readonly string[], facts: Facts): readonly string[] =>
  fields.filter((id) => isEmpty(facts.values[id]));

/** A calculated number is put right through the fields it is calculated from. */
function fill(fields: readonly string[], catalogue: Catalogue): Remedy {
  const writable = [...new Set(fields.flatMap((id) => sourceFields(id, catalogue)))];
  return writable.length > 0 ? { kind: 'fill', fields: writable } : { kind: 'decide' };
}
