import { fieldsReadBy } from '../criteria/criterion.ts';
import { type Explanation, evaluate, leavesOf } from '../criteria/evaluate.ts';
import type { Facts } from '../criteria/facts.ts';
import { distinctPairs, type Lacking, lackingBehind, sourceFields } from '../facts/calculate.ts';
import type { Catalogue } from '../facts/field.ts';
import { isEmpty } from '../facts/value.ts';
import type { CurrencyPair } from '../money/money.ts';
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
  /** Amounts of two currencies are compared, and nobody has said what one is in the other (S33). */
  | { readonly kind: 'set_rate'; readonly rates: readonly CurrencyPair[] }
  | { readonly kind: 'decide' };

export interface ItemVerdict<Item extends GateItem = GateItem> {
  readonly item: Item;
  readonly state: ItemState;
  readonly remedy: Remedy;
  /** Fields to fill before it is known whether the item applies at all. */
  readonly mayApply: readonly string[];
  /** Exchange rates to set before that is known. */
  readonly mayApplyRates: readonly CurrencyPair[];
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
  const applies = item.appliesWhen ? evaluate(item.appliesWhen, facts, catalogue) : null;
  if (applies?.result === false) return { ...NOTHING_TO_DO, item, state: 'not_applicable', explanation: null };
  const explanation = item.kind === 'criterion' ? evaluate(item.criterion, facts, catalogue) : null;
  const judged = stateOf(item, facts, explanation);
  const state = isOpen(judged) && facts.waived.has(item.id) ? 'waived' : judged;
  const unclear = applies?.result === null ? lackingFor(applies, facts, catalogue) : NOTHING_LACKING;
  return {
    item,
    state,
    remedy: isOpen(state) ? remedyFor(item, facts, catalogue, explanation) : { kind: 'none' },
    mayApply: unclear.fields,
    mayApplyRates: unclear.rates,
    explanation,
  };
}

const NOTHING_LACKING: Lacking = { fields: [], rates: [] };
const NOTHING_TO_DO = { remedy: { kind: 'none' }, mayApply: [], mayApplyRates: [] } as const;

/** What has to be filled, and which rates set, before the criterion is known. */
function lackingFor(explanation: Explanation, facts: GateFacts, catalogue: Catalogue): Lacking {
  const lacking = lackingIn(fieldsReadBy(explanation.criterion), facts, catalogue);
  const compared = leavesOf(explanation).flatMap(({ missingRates }) => missingRates);
  return { fields: lacking.fields, rates: distinctPairs([...lacking.rates, ...compared]) };
}

const lackingIn = (
  fields: readonly string[],
  { values, currencyOf, rateOf }: GateFacts,
  catalogue: Catalogue,
): Lacking => lackingBehind(fields, values, catalogue, (holder) => ({ currency: currencyOf[holder], rateOf }));

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

function remedyFor(item: GateItem, facts: GateFacts, catalogue: Catalogue, explanation: Explanation | null): Remedy {
  switch (item.kind) {
    case 'field':
      return provide(lackingIn([item.field], facts, catalogue), [item.field], catalogue);
    case 'checklist':
      return { kind: 'tick', item: item.id };
    case 'decision':
      return { kind: 'decide' };
    case 'criterion': {
      const isUnknown = explanation !== null && explanation.result === null;
      const lacking = isUnknown ? lackingFor(explanation, facts, catalogue) : NOTHING_LACKING;
      return provide(lacking, fieldsReadBy(item.criterion), catalogue);
    }
  }
}

/** What is lacking comes first; where nothing is, what was read has to become other than it is. */
function provide({ fields, rates }: Lacking, read: readonly string[], catalogue: Catalogue): Remedy {
  if (fields.length > 0) return { kind: 'fill', fields };
  if (rates.length > 0) return { kind: 'set_rate', rates };
  const sources = [...new Set(read.flatMap((id) => sourceFields(id, catalogue)))];
  return sources.length > 0 ? { kind: 'fill', fields: sources } : { kind: 'decide' };
}
