import {
  type DealId,
  FIRST_DAY,
  isUsualDay,
  LAST_DAY,
  type ProcessId,
  parseDay,
  type StageId,
  type VersionId,
} from '@ladder/core';
import Joi from 'joi';

/** JSON Schema (draft 2020-12), as OpenAPI 3.1 uses it. */
export type JsonSchema = { readonly [key: string]: unknown };

/**
 * One description of a value: how it is checked, how it is documented, and the type it implies. The document is made beside
 * the check, not from it: joi-to-json (5.0.5) makes maps into objects without properties, shapes that are told apart by a
 * tag into ones that take anything, and knows no references; a test holds each pair against random bodies.
 */
export interface Schema<T> {
  readonly joi: Joi.Schema;
  readonly json: JsonSchema;
  readonly optional: 'no' | 'yes';
  /** Never set: carries the type. */
  readonly implied?: T;
}

/** The type that a schema implies. */
export type TypeOf<S> = S extends Schema<infer T> ? T : never;

type Shape = Readonly<Record<string, Schema<unknown>>>;
type OptionalSchema<T> = Schema<T> & { readonly optional: 'yes' };
type OptionalKeys<S extends Shape> = { [K in keyof S]: S[K] extends { readonly optional: 'yes' } ? K : never }[keyof S];
type ShapeType<S extends Shape> = { readonly [K in Exclude<keyof S, OptionalKeys<S>>]: TypeOf<S[K]> } & {
  readonly [K in OptionalKeys<S>]?: TypeOf<S[K]>;
};

/** A schema of a value that has to be there. */
export type Known<T> = Schema<T> & { readonly optional: 'no' };

const schema = <T>(joi: Joi.Schema, json: JsonSchema): Known<T> => ({ joi, json, optional: 'no' });

/** NUL, and halves of characters: PostgreSQL stores neither. With the flag, a whole pair does not match. */
const UNSTORABLE = new RegExp(`[${String.fromCharCode(0)}\\ud800-\\udfff]`, 'u');

export interface TextLimits {
  readonly min?: number;
  readonly max?: number;
  readonly pattern?: RegExp;
  /** What a text of that pattern is, in words: told where it is none. */
  readonly what?: string;
  readonly format?: string;
}

/** A text; by default up to 2,000 characters and not empty, of characters that can be stored (S3). */
export function text({ min = 1, max = 2000, pattern, what, format }: TextLimits = {}): Known<string> {
  let joi = Joi.string().max(max).pattern(UNSTORABLE, { invert: true, name: 'a character that cannot be stored' });
  joi = min === 0 ? joi.allow('') : joi.min(min);
  if (pattern) joi = joi.pattern(pattern, what);
  return schema(joi, {
    type: 'string',
    minLength: min,
    maxLength: max,
    ...(pattern ? { pattern: pattern.source } : {}),
    ...(format ? { format } : {}),
  });
}

const UUID = /^[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}$/;

/** A UUID in its plain form (RFC 9562, section 4); capitals are taken, and mean the same. */
export const id = (): Known<string> =>
  schema(
    Joi.string()
      .pattern(UUID, { name: 'an id' })
      .custom((value: string) => value.toLowerCase()),
    { type: 'string', format: 'uuid', pattern: UUID.source },
  );
export const key = (): Known<string> => text({ max: 80, pattern: /^[A-Za-z0-9_:.-]+$/ });

/** Ids that are told apart; parsing is where they are made. */
export const dealId = (): Known<DealId> => id() as unknown as Known<DealId>;
export const processId = (): Known<ProcessId> => id() as unknown as Known<ProcessId>;
export const versionId = (): Known<VersionId> => id() as unknown as Known<VersionId>;
export const stageId = (): Known<StageId> => key() as unknown as Known<StageId>;

const UNREAL_DAY = 'must be a date that exists, as YYYY-MM-DD';

/** A date that exists and lies where dates of deals do; 30 February is refused where it is asked for, not by the database. */
export const day = (): Known<string> =>
  schema(
    Joi.string()
      .custom((value: string, helpers) => {
        if (parseDay(value) === null) return helpers.error('day.unreal');
        return isUsualDay(value) ? value : helpers.error('day.unusual');
      })
      .messages({
        'day.unreal': UNREAL_DAY,
        'day.unusual': `must lie between ${FIRST_DAY} and ${LAST_DAY}`,
      }),
    { type: 'string', format: 'date', description: `From ${FIRST_DAY} to ${LAST_DAY}` },
  );

/** A date of any age, such as the bound of a field. */
export const anyDay = (): Known<string> =>
  schema(
    Joi.string()
      .custom((value: string, helpers) => (parseDay(value) === null ? helpers.error('day.unreal') : value))
      .messages({ 'day.unreal': UNREAL_DAY }),
    { type: 'string', format: 'date' },
  );

const INSTANT = /^(\d{4}-\d{2}-\d{2})T([01]\d|2[0-3]):[0-5]\d:[0-5]\d(\.\d+)?(Z|[+-]([01]\d|2[0-3]):[0-5]\d)$/;

/** A date and time with its offset, as RFC 3339, section 5.6, writes it; leap seconds are not taken. */
export const instant = (): Known<string> =>
  schema(
    Joi.string()
      .custom((value: string, helpers) => {
        const date = INSTANT.exec(value)?.[1];
        if (date === undefined || parseDay(date) === null) return helpers.error('instant.unreal');
        return isUsualDay(date) ? value : helpers.error('instant.unusual');
      })
      .messages({
        'instant.unreal': 'must be a date and time that exist, as 2026-11-24T10:00:00Z',
        'instant.unusual': `must lie between ${FIRST_DAY} and ${LAST_DAY}`,
      }),
    { type: 'string', format: 'date-time', description: `From ${FIRST_DAY} to ${LAST_DAY}` },
  );
export const yesNo = (): Known<boolean> => schema(Joi.boolean(), { type: 'boolean' });
export const integer = (min = Number.MIN_SAFE_INTEGER, max = Number.MAX_SAFE_INTEGER): Known<number> =>
  schema(Joi.number().integer().min(min).max(max), { type: 'integer', minimum: min, maximum: max });
/** A number that is told apart from its neighbours; Joi refuses what lies beyond. */
export const number = (): Known<number> =>
  schema(Joi.number(), { type: 'number', minimum: Number.MIN_SAFE_INTEGER, maximum: Number.MAX_SAFE_INTEGER });
export const anything = (): Known<unknown> => schema(Joi.any(), {});
export const oneOf = <const V extends readonly (string | number)[]>(values: V): Known<V[number]> =>
  schema(Joi.valid(...values), { enum: [...values] });

/** The number of a written form: another one is another program's. */
export const formatNumber = <const N extends number>(number: N): Known<N> =>
  schema(
    Joi.valid(number).messages({
      'any.only': `{{#label}} must be ${number}; another program, a newer one perhaps, has written this`,
    }),
    { enum: [number] },
  );

export const list = <T>(of: Schema<T>, max = 100_000): Known<readonly T[]> =>
  schema(Joi.array().items(of.joi).max(max), { type: 'array', items: of.json, maxItems: max });

/** Values by their names; any text may be a name unless `names` says which. */
export const map = <T>(of: Schema<T>, names: Schema<string> = text()): Known<Readonly<Record<string, T>>> =>
  schema(Joi.object().pattern(names.joi, of.joi), {
    type: 'object',
    propertyNames: names.json,
    additionalProperties: of.json,
  });

/** The schema with a sentence about what it means. */
export const described = <T>(of: Known<T>, description: string): Known<T> => ({
  ...of,
  json: { ...of.json, description },
});

export const nullable = <T>(of: Schema<T>): Known<T | null> =>
  schema(of.joi.allow(null), { anyOf: [of.json, { type: 'null' }] });

export const optional = <T>(of: Schema<T>): OptionalSchema<T> => ({ ...of, optional: 'yes' });

export function object<S extends Shape>(shape: S): Known<ShapeType<S>> {
  const entries = Object.entries(shape);
  const joi = Joi.object(
    Object.fromEntries(entries.map(([name, part]) => [name, part.optional === 'yes' ? part.joi : part.joi.required()])),
  );
  return schema(joi, {
    type: 'object',
    properties: Object.fromEntries(entries.map(([name, part]) => [name, part.json])),
    required: entries.filter(([, part]) => part.optional === 'no').map(([name]) => name),
    additionalProperties: false,
  });
}

/** Exactly one of several shapes, told apart by the value of one property. */
export function tagged<S extends readonly Schema<unknown>[]>(tag: string, ...options: S): Known<TypeOf<S[number]>> {
  // biome-ignore lint/suspicious/noThenProperty: Joi's own name for the schema of a case
  const cases = options.flatMap((option) => tagValues(option, tag).map((is) => ({ is, then: option.joi })));
  const known = cases.map(({ is }) => is);
  const otherwise = Joi.object({ [tag]: Joi.valid(...known).required() }).unknown();
  return schema(Joi.alternatives().conditional(`.${tag}`, { switch: cases, otherwise }), {
    oneOf: options.map(({ json }) => json),
  });
}

function tagValues(option: Schema<unknown>, tag: string): readonly string[] {
  const properties = option.json.properties as Record<string, { enum?: readonly string[] }> | undefined;
  return properties?.[tag]?.enum ?? [];
}

export const either = <S extends readonly Schema<unknown>[]>(...options: S): Known<TypeOf<S[number]>> =>
  schema(Joi.alternatives().try(...options.map(({ joi }) => joi)), { anyOf: options.map(({ json }) => json) });

/** Schemas that the OpenAPI document lists by name. */
export const namedSchemas = new Map<string, Schema<unknown>>();

const reference = (name: string): JsonSchema => ({ $ref: `#/components/schemas/${name}` });

/** The schema under a name of its own in the OpenAPI document; a recursive one refers to itself by `self(name)`. */
export function named<T>(name: string, of: Schema<T>): Known<T> {
  // Two of one name would each be described as the other.
  if (namedSchemas.has(name)) throw new Error(`There are two schemas called ${name}`);
  namedSchemas.set(name, of);
  return schema(of.joi, reference(name));
}

/** A named schema inside itself. What is wrong in there is carried up as nested details, each with its own path. */
export function self<T>(name: string): Known<T> {
  const joi = Joi.any()
    .custom((value, helpers) => {
      const { error } = (namedSchemas.get(name)?.joi ?? Joi.forbidden()).validate(value, {
        abortEarly: helpers.prefs.abortEarly ?? true,
        convert: false,
      });
      return error ? helpers.error('nested.invalid', { nested: error.details }) : value;
    })
    .messages({ 'nested.invalid': 'is not valid' });
  return schema(joi, reference(name));
}

/** One list, a page at a time; `next` is given back as `after` to read on. */
export const page = <T>(of: Schema<T>): Known<{ readonly items: readonly T[]; readonly next: string | null }> =>
  object({ items: list(of), next: nullable(text()) }) as Known<{
    readonly items: readonly T[];
    readonly next: string | null;
  }>;
