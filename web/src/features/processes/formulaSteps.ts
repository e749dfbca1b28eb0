import type { Formula } from '@ladder/core';

export const OPERATIONS = ['add', 'subtract', 'multiply', 'divide'] as const;
export type Operation = (typeof OPERATIONS)[number];

/** One line of the editor: what is done with the result so far, and with which field or number. */
export interface FormulaStep {
  readonly id: string;
  readonly operation: Operation;
  /** A field's id, or `number` for a plain one. */
  readonly operand: string;
  readonly number: string;
}

/** The steps as a formula, worked from the first to the last; null while one of them is not filled. */
export function formulaOf(steps: readonly FormulaStep[]): Formula | null {
  let result: Formula | null = null;
  for (const step of steps) {
    const operand = operandOf(step);
    if (!operand) return null;
    result = result ? { kind: step.operation, left: result, right: operand } : operand;
  }
  return result;
}

function operandOf({ operand, number }: FormulaStep): Formula | null {
  if (operand === '') return null;
  if (operand !== 'number') return { kind: 'field', field: operand };
  const value = Number(number.trim());
  return number.trim() === '' || !Number.isFinite(value) ? null : { kind: 'number', value };
}
