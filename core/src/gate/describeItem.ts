import type { Explanation, Leaf } from '../criteria/evaluate.ts';
import { type NameOf, type Piece, phrase, valueText } from '../criteria/phrase.ts';
import type { Catalogue } from '../facts/field.ts';
import type { CurrencyPair } from '../money/money.ts';
import type { GateItem } from './item.ts';
import { type ItemVerdict, isOpen } from './verdict.ts';

/** What an item asks, in words. */
export function describeItem(item: GateItem, catalogue: Catalogue, nameOf: NameOf): readonly Piece[] {
  switch (item.kind) {
    case 'criterion':
      return phrase(item.criterion, catalogue, nameOf);
    case 'field':
      return [
        { text: catalogue.get(item.field)?.name ?? 'A field that is gone', strong: true },
        { text: ' is filled', strong: false },
      ];
    case 'checklist':
      return [
        { text: item.text, strong: true },
        { text: ' is ticked', strong: false },
      ];
    case 'decision':
      return [
        { text: 'Going back', strong: true },
        { text: ' needs an administrator’s decision', strong: false },
      ];
  }
}

/** What is so now, in words, for an item that reads a value; null where there is nothing to tell. */
export function describeActual(
  { item, state, explanation }: ItemVerdict,
  catalogue: Catalogue,
  nameOf: NameOf,
): string | null {
  if (item.kind === 'checklist') return state === 'met' ? 'ticked' : 'not ticked';
  if (item.kind === 'field') return isOpen(state) ? 'not filled' : null;
  const leaf = explanation && decidingLeaf(explanation);
  if (!leaf) return null;
  const field = leaf.criterion.left.of === 'field' ? catalogue.get(leaf.criterion.left.field) : undefined;
  const actual = valueText(leaf.actual, field, nameOf);
  return leaf.missingRates.length > 0 ? `${actual}; ${ratesText(leaf.missingRates)}` : actual;
}

/** Rates that are not set, in words. */
const ratesText = (rates: readonly CurrencyPair[]): string =>
  rates.map(({ from, to }) => `no exchange rate from ${from} to ${to}`).join(', ');

/** The first leaf that keeps the whole from being true; where it is true, the first leaf. */
function decidingLeaf(explanation: Explanation): Leaf | null {
  if (explanation.kind === 'leaf') return explanation;
  const part = explanation.parts.find(({ result }) => result !== true) ?? explanation.parts[0];
  return part ? decidingLeaf(part) : null;
}
