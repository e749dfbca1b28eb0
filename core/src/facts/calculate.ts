import { type CurrencyPair, convert, type Exchange, minorDigits } from '../money/money.ts';
import type { Catalogue, Field, FieldHolder, Formula } from './field.ts';
import { type FactValue, isEmpty, isMoney, type Values } from './value.ts';

/**
 * A formula's result over the values: null where an operand is empty, a rate is missing or a division is by zero. Amounts
 * count in major units of one currency; those in another are converted first (S33).
 */
export function calculate(formula: Formula, values: Values, exchange: Exchange): number | null {
  switch (formula.kind) {
    case 'number':
      return formula.value;
    case 'field':
      return numberOf(values[formula.field], exchange);
    default:
      return combine(
        formula.kind,
        calculate(formula.left, values, exchange),
        calculate(formula.right, values, exchange),
      );
  }
}

/** Ids of the fields that a formula reads, in reading order. */
export function formulaFields(formula: Formula): readonly string[] {
  if (formula.kind === 'number') return [];
  return formula.kind === 'field' ? [formula.field] : [...formulaFields(formula.left), ...formulaFields(formula.right)];
}

/** How many numbers and fields a formula is made of. */
export const formulaParts = (formula: Formula): number =>
  formula.kind === 'number' || formula.kind === 'field' ? 1 : formulaParts(formula.left) + formulaParts(formula.right);

/** Whether a field is another one, or worked out from it through however many calculated numbers. */
export function readsThrough(id: string, other: string, catalogue: Catalogue, seen: Set<string> = new Set()): boolean {
  if (id === other) return true;
  if (seen.has(id)) return false;
  seen.add(id);
  const formula = catalogue.get(id)?.formula;
  return formula ? formulaFields(formula).some((part) => readsThrough(part, other, catalogue, seen)) : false;
}

/** The written fields that a field's value comes from: itself, or through any calculated numbers what they are made of. */
export function sourceFields(id: string, catalogue: Catalogue): readonly string[] {
  const field = catalogue.get(id);
  if (!field) return [];
  if (field.type !== 'calculated' || !field.formula) return [id];
  return formulaFields(field.formula).flatMap((part) => sourceFields(part, catalogue));
}

/** What keeps fields without a value. */
export interface Lacking {
  /** Written fields that are not filled. */
  readonly fields: readonly string[];
  /** Exchange rates that are not set. */
  readonly rates: readonly CurrencyPair[];
}

/** What is to be filled, or which rates set, before the empty ones among the fields have a value. */
export function lackingBehind(
  ids: readonly string[],
  values: Values,
  catalogue: Catalogue,
  exchangeOf: (holder: FieldHolder) => Exchange,
): Lacking {
  const sources = ids
    .filter((id) => isEmpty(values[id]))
    .flatMap((id) => sourceFields(id, catalogue).map((source) => ({ id, source })));
  const fields = sources.map(({ source }) => source).filter((source) => isEmpty(values[source]));
  const rates = sources.flatMap(({ source, id }) => {
    const value = values[source];
    const holder = catalogue.get(id)?.holder ?? 'deal';
    return isMoney(value) ? pairWithoutRate(value.currency, exchangeOf(holder)) : [];
  });
  return { fields: [...new Set(fields)], rates: distinctPairs(rates) };
}

const pairWithoutRate = (from: string, { currency, rateOf }: Exchange): readonly CurrencyPair[] =>
  from === currency || rateOf(from, currency) ? [] : [{ from, to: currency }];

/** The pairs, each once. */
export const distinctPairs = (pairs: readonly CurrencyPair[]): readonly CurrencyPair[] => [
  ...new Map(pairs.map((pair) => [`${pair.from} ${pair.to}`, pair])).values(),
];

function numberOf(value: FactValue | undefined, { currency, rateOf }: Exchange): number | null {
  if (!isMoney(value)) return typeof value === 'number' ? value : null;
  const converted = convert(value, currency, rateOf);
  return converted && converted.minor / 10 ** minorDigits(currency);
}

function combine(
  kind: 'add' | 'subtract' | 'multiply' | 'divide',
  left: number | null,
  right: number | null,
): number | null {
  if (left === null || right === null || (kind === 'divide' && right === 0)) return null;
  const result = { add: left + right, subtract: left - right, multiply: left * right, divide: left / right }[kind];
  return Number.isFinite(result) ? Number(result.toPrecision(15)) : null;
}

/**
 * A record's values with every calculated number of its holder worked out anew; they are stored like any other (S29). The
 * very same values where each is what it was.
 */
export function withCalculated(values: Values, catalogue: Catalogue, holder: FieldHolder, exchange: Exchange): Values {
  let result = values;
  for (const { id, formula } of calculatedOf(catalogue, holder)) {
    const number = calculate(formula, result, exchange);
    if (result[id] !== number) result = { ...result, [id]: number };
  }
  return result;
}

type Calculated = Field & { readonly formula: Formula };

const ordered = new WeakMap<Catalogue, Map<FieldHolder, readonly Calculated[]>>();

/** The calculated numbers of a holder, each after those that it reads; catalogues never change, so it is worked out once. */
function calculatedOf(catalogue: Catalogue, holder: FieldHolder): readonly Calculated[] {
  const known = ordered.get(catalogue) ?? new Map<FieldHolder, readonly Calculated[]>();
  ordered.set(catalogue, known);
  const fields = known.get(holder) ?? inReadingOrder(catalogue, holder);
  known.set(holder, fields);
  return fields;
}

function inReadingOrder(catalogue: Catalogue, holder: FieldHolder): readonly Calculated[] {
  const order = new Set<Field>();
  const met = new Set<string>();
  const take = (id: string): void => {
    const field = catalogue.get(id);
    if (!field?.formula || field.holder !== holder || met.has(id)) return;
    met.add(id);
    formulaFields(field.formula).forEach(take);
    order.add(field);
  };
  for (const id of catalogue.keys()) take(id);
  return [...order].filter((field): field is Calculated => field.formula !== undefined);
}
