import { minorDigits } from '../money/money.ts';
import type { Catalogue, Formula } from './field.ts';
import { type FactValue, isMoney, type Values } from './value.ts';

/** A formula's result over the values: null where an operand is empty or a division is by zero. Money counts in major units. */
export function calculate(formula: Formula, values: Values): number | null {
  switch (formula.kind) {
    case 'number':
      return formula.value;
    case 'field':
      return numberOf(values[formula.field]);
    default:
      return combine(formula.kind, calculate(formula.left, values), calculate(formula.right, values));
  }
}

/** Ids of the fields that a formula reads, in reading order. */
export function formulaFields(formula: Formula): readonly string[] {
  if (formula.kind === 'number') return [];
  return formula.kind === 'field' ? [formula.field] : [...formulaFields(formula.left), ...formulaFields(formula.right)];
}

/** The written fields that a field's value comes from: itself, or through any calculated numbers what they are made of. */
export function sourceFields(id: string, catalogue: Catalogue): readonly string[] {
  const field = catalogue.get(id);
  if (!field) return [];
  if (field.type !== 'calculated' || !field.formula) return [id];
  return formulaFields(field.formula).flatMap((part) => sourceFields(part, catalogue));
}

function numberOf(value: FactValue | undefined): number | null {
  if (isMoney(value)) return value.minor / 10 ** minorDigits(value.currency);
  return typeof value === 'number' ? value : null;
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

/** The values with every calculated number of the catalogue worked out anew; they are stored like any other (S29). */
export function withCalculated(values: Values, catalogue: Catalogue): Values {
  const result: Record<string, FactValue> = { ...values };
  for (const field of catalogue.values()) {
    if (field.type === 'calculated' && field.formula) result[field.id] = calculate(field.formula, result);
  }
  return result;
}
