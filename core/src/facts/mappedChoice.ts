import type { FactValue } from './value.ts';

/** A value of a choice field with one choice in place of another, each once; the very same value where it is not chosen. */
export function mappedChoice(value: FactValue, from: string, to: string): FactValue {
  if (value === from) return to;
  if (!Array.isArray(value) || !value.includes(from)) return value;
  return [...new Set(value.map((choice) => (choice === from ? to : choice)))];
}
