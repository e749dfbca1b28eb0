import { type Field, foldText, writtenName } from '@ladder/core';

/** The part of a name that is being written at a place of a formula. */
interface Begun {
  readonly from: number;
  readonly text: string;
}

/** What stands between the last sign and the cursor. */
export function begunAt(formula: string, cursor: number): Begun {
  const [text = ''] = /[^+*/()×÷−–·-]*$/u.exec(formula.slice(0, cursor)) ?? [];
  const begun = text.trimStart();
  return { from: cursor - begun.length, text: begun };
}

const MOST_OFFERED = 7;

/** Fields that are called as what is begun: those that begin so first. A number, and a name that is whole, want none. */
export function completions(begun: Begun, operands: readonly Field[]): readonly Field[] {
  const text = foldText(begun.text.replace(/^"/, '').trim());
  if (/^[\d.]/.test(begun.text) || operands.some(({ name }) => foldText(name) === text)) return [];
  const called = operands.filter(({ name }) => foldText(name).includes(text));
  const begins = ({ name }: Field): boolean => foldText(name).startsWith(text);
  return [...called.filter(begins), ...called.filter((field) => !begins(field))].slice(0, MOST_OFFERED);
}

/** The formula with the begun name written out, and where the cursor stands then. */
export function completed(
  formula: string,
  cursor: number,
  { name }: Field,
): { readonly text: string; readonly cursor: number } {
  const before = `${formula.slice(0, begunAt(formula, cursor).from)}${writtenName(name)} `;
  return { text: before + formula.slice(cursor).trimStart(), cursor: before.length };
}
