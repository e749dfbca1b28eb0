import type Joi from 'joi';
import type { Schema } from './schema.ts';

/** Something wrong in a request, at an RFC 6901 pointer into it. */
export interface InputProblem {
  readonly pointer: string;
  readonly detail: string;
}

export type Parsed<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problems: readonly InputProblem[] };

/** Checks a value against a schema. JSON bodies are taken as they are; query strings have their numbers read. */
export function parse<T>(schema: Schema<T>, value: unknown, source: 'body' | 'query'): Parsed<T> {
  const result = schema.joi.validate(value, {
    abortEarly: false,
    convert: source === 'query',
    errors: { label: 'key', wrap: { label: false } },
  });
  if (!result.error) return { ok: true, value: result.value as T };
  return { ok: false, problems: result.error.details.flatMap((item) => toProblems(item, [])) };
}

function toProblems(
  { path, message, context }: Joi.ValidationErrorItem,
  above: readonly (string | number)[],
): readonly InputProblem[] {
  const at = [...above, ...path];
  const nested = context?.nested as readonly Joi.ValidationErrorItem[] | undefined;
  if (nested) return nested.flatMap((item) => toProblems(item, at));
  const pointer = at.map((part) => `/${String(part).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');
  return [{ pointer, detail: `${message.charAt(0).toUpperCase()}${message.slice(1)}.` }];
}
