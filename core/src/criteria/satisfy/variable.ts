import type { Catalogue, Field } from '../../facts/field.ts';
import { isMoney } from '../../facts/value.ts';
import { type Condition, type Operand, type Term, termsOf } from '../criterion.ts';
import { operandField } from '../operands.ts';
import { type ComparableKind, comparableKind } from '../terms.ts';

/** What criteria are judged against. */
export interface Subject {
  readonly catalogue: Catalogue;
  /** Results with which a step can end. */
  readonly resultsOf: (step: string) => readonly string[];
  /** In which amounts are, where no condition names a currency. */
  readonly currency: string;
  /** The day from which on: whole days since 1970-01-01. */
  readonly today: number;
}

/** Something that conditions read. Amounts of one field that are compared in two currencies are two, for rates may be anything. */
export interface Variable {
  readonly key: string;
  readonly operand: Operand;
  readonly kind: ComparableKind;
  readonly field: Field;
  /** Of an amount. */
  readonly currency: string;
}

/** A condition with what it reads. */
export interface Atom {
  readonly condition: Condition;
  readonly reads: readonly Variable[];
}

/** Operands never change, and are asked for with every question. */
const keys = new WeakMap<Operand, string>();

function operandKey(operand: Operand): string {
  const key = keys.get(operand) ?? Object.values(operand).join(' ');
  keys.set(operand, key);
  return key;
}

const isOperand = (term: Term): term is Operand => term.of !== 'value' && term.of !== 'today';

/** What a condition reads; null where its field is gone, so that it is always unknown. */
export function atomOf(
  condition: Condition,
  { catalogue, currency: usual }: Subject,
  mainCurrency: MainCurrency,
): Atom | null {
  const operands = termsOf(condition).filter(isOperand);
  const currency = currencyOf(condition) ?? mainCurrency.get(operandKey(condition.left)) ?? usual;
  const reads: Variable[] = [];
  for (const operand of operands) {
    const kind = comparableKind(operand, catalogue);
    const field = operandField(operand, catalogue, () => undefined);
    if (!kind || !field) return null;
    const key = kind === 'money' ? `${operandKey(operand)} ${currency}` : operandKey(operand);
    if (!reads.some((other) => other.key === key)) reads.push({ key, operand, kind, field, currency });
  }
  return { condition, reads };
}

/** The currency in which whether an amount is set is told, by its operand: the first that one is compared in. */
export type MainCurrency = ReadonlyMap<string, string>;

export function mainCurrencies(conditions: readonly Condition[]): MainCurrency {
  const main = new Map<string, string>();
  for (const condition of conditions) {
    const currency = currencyOf(condition);
    for (const operand of currency ? termsOf(condition).filter(isOperand) : [])
      if (!main.has(operandKey(operand))) main.set(operandKey(operand), currency ?? '');
  }
  return main;
}

/** The currency of the amounts that a condition names. */
function currencyOf(condition: Condition): string | null {
  for (const term of termsOf(condition)) if (term.of === 'value' && isMoney(term.value)) return term.value.currency;
  return null;
}
