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

/** Of so many faults the first are told; whoever mends them asks again. */
const MOST_PROBLEMS = 20;
/** A larger value is checked up to its first fault only: telling every fault of it takes longer than anyone may wait. */
const MOST_PARTS = 5_000;
/** No document is nested as deep; what is would overflow whatever goes through it. */
const MOST_LEVELS = 100;
/** Whoever looks for what is nested too deep finds it by its outermost parts. */
const MOST_TOLD = 8;

/** What is wrong is told without the value, which may be as long as a request. */
const MESSAGES = {
  'string.pattern.base': '{{#label}} must have the form {{#regex}}',
  'string.pattern.name': '{{#label}} must be {{#name}}',
  'string.pattern.invert.name': '{{#label}} must not have {{#name}}',
};
/** Names of keys are told, and may be as long. */
const MOST_LETTERS = 300;

/** Checks a value against a schema. JSON bodies are taken as they are; query strings have their numbers read. */
export function parse<T>(schema: Schema<T>, value: unknown, source: 'body' | 'query'): Parsed<T> {
  const { parts, levels } = extentOf(value);
  if (levels > MOST_LEVELS) {
    const pointer = pointerOf((pathTooDeep(value, MOST_LEVELS) ?? []).slice(0, MOST_TOLD));
    return { ok: false, problems: [{ pointer, detail: `This is nested more than ${MOST_LEVELS} levels deep.` }] };
  }
  const check = (told: 'first' | 'all'): Joi.ValidationResult => askedFor(schema.joi, source)[told].validate(value);
  const first = check('first');
  if (!first.error) return { ok: true, value: first.value as T };
  const details = (parts > MOST_PARTS ? first : check('all')).error?.details ?? [];
  const problems = details.slice(0, MOST_PROBLEMS).flatMap((item) => toProblems(item, []));
  return { ok: false, problems: problems.slice(0, MOST_PROBLEMS) };
}

/** A schema as it is asked, for the first fault or for all. */
type Asked = Readonly<Record<'first' | 'all', Joi.Schema>>;

const asked = { body: new WeakMap<Joi.Schema, Asked>(), query: new WeakMap<Joi.Schema, Asked>() };

/** Made once of each schema: Joi would get the messages ready with each value, which takes longer than most checks. */
function askedFor(joi: Joi.Schema, source: 'body' | 'query'): Asked {
  const ask = (abortEarly: boolean): Joi.Schema =>
    joi.prefs({
      abortEarly,
      convert: source === 'query',
      errors: { label: 'key', wrap: { label: false } },
      messages: MESSAGES,
    });
  const known = asked[source].get(joi) ?? { first: ask(true), all: ask(false) };
  asked[source].set(joi, known);
  return known;
}

/** How many parts a JSON value has, and how deep they are nested; no further than is asked. */
function extentOf(value: unknown): { readonly parts: number; readonly levels: number } {
  let [parts, levels] = [0, 0];
  let level: readonly unknown[] = [value];
  while (level.length > 0 && levels <= MOST_LEVELS) {
    parts += level.length;
    levels++;
    const below: unknown[] = [];
    for (const part of level)
      if (typeof part === 'object' && part !== null) for (const each of Object.values(part)) below.push(each);
    level = below;
  }
  return { parts, levels };
}

/** The way to the first part that stands so many levels down. */
function pathTooDeep(value: unknown, levels: number): readonly string[] | null {
  if (levels === 0) return [];
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, part] of Object.entries(value)) {
    const below = pathTooDeep(part, levels - 1);
    if (below) return [key, ...below];
  }
  return null;
}

const pointerOf = (path: readonly (string | number)[]): string =>
  path.map((part) => `/${String(part).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

function toProblems(
  { path, message, context }: Joi.ValidationErrorItem,
  above: readonly (string | number)[],
): readonly InputProblem[] {
  const at = [...above, ...path];
  const nested = context?.nested as readonly Joi.ValidationErrorItem[] | undefined;
  if (nested) return nested.flatMap((item) => toProblems(item, at));
  const told = `${message.charAt(0).toUpperCase()}${message.slice(1)}.`;
  return [
    { pointer: pointerOf(at), detail: told.length > MOST_LETTERS ? `${told.slice(0, MOST_LETTERS - 1)}…` : told },
  ];
}
