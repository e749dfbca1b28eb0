import { openApiDocument } from '@ladder/contract';
import { seededNumbers } from './seededNumbers.ts';

interface Parameter {
  readonly name: string;
  readonly in: 'path' | 'query' | 'header';
  readonly required: boolean;
  readonly schema: Schema;
}
type Schema = Readonly<Record<string, unknown>>;
interface Operation {
  readonly parameters: readonly Parameter[];
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: Schema }>> };
}

/** A request that might come from anyone: plausible in most parts, wrong in some. */
export interface FuzzedRequest {
  readonly operation: string;
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: unknown;
}

const document = openApiDocument('fuzz') as unknown as {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, Schema>> };
};
const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
  Object.entries(methods).map(([method, operation]) => ({ path, method: method.toUpperCase(), operation })),
);

const STRANGE: readonly unknown[] = [
  null,
  '',
  0,
  -1,
  1e308,
  2 ** 31,
  2 ** 53,
  true,
  [],
  {},
  'x',
  '\u0000',
  '\ud83c',
  '%',
  '../..',
  "' or 1=1 --",
  '2026-02-30',
  '9999-12-31',
  '0001-01-01T00:00:00+23:59',
  '[01900000-0000-7000-8000-000000000001]',
  'é'.repeat(3_000),
  Array.from({ length: 600 }, () => 'x'),
  { kind: 'not', of: { kind: 'all', of: [] } },
];
const HEADERS: readonly Readonly<Record<string, string>>[] = [
  {},
  {},
  {},
  { 'If-Match': '"1"' },
  { 'If-Match': '"2147483648"' },
  { 'If-Match': 'W/"x"' },
  { 'Idempotency-Key': 'one' },
  { 'Idempotency-Key': 'x'.repeat(201) },
  { 'Content-Type': 'text/plain' },
  { 'Content-Type': 'application/json; charset=klingon' },
  { 'Content-Encoding': 'nonsense' },
  { 'X-Ladder-Token': 'wrong' },
];

/** Requests over the whole OpenAPI document, the same for the same seed; `known` are ids that exist. */
export function* fuzzedRequests(seed: number, count: number, known: readonly string[]): Generator<FuzzedRequest> {
  const below = seededNumbers(seed);
  const pick = <T>(all: readonly T[]): T => all[below(all.length)] as T;
  for (let made = 0; made < count; made++) {
    const { path, method, operation } = pick(operations);
    const valueFor = (schema: Schema, depth = 0): unknown =>
      below(8) === 0 ? pick(STRANGE) : plausible(schema, depth);
    const plausible = (given: Schema, depth: number): unknown => {
      const schema = resolve(given);
      const options = (schema.oneOf ?? schema.anyOf) as readonly Schema[] | undefined;
      if (options) return valueFor(pick(options), depth);
      if (Array.isArray(schema.enum)) return pick(schema.enum);
      if (schema.format === 'uuid') return pick(known);
      if (schema.format === 'date') return pick(['2026-11-24', '1900-01-01', '2200-12-31']);
      if (schema.format === 'date-time') return '2026-11-24T10:00:00Z';
      if (schema.type === 'integer' || schema.type === 'number') return pick([0, 1, 2, 7, 100, 1e6]);
      if (schema.type === 'boolean') return below(2) === 0;
      if (schema.type === 'array')
        return depth > 5 ? [] : Array.from({ length: below(3) }, () => valueFor(schema.items as Schema, depth + 1));
      if (schema.type === 'object') return objectOf(schema, depth);
      return pick(['x', 'GBP', 'area', 'brief', 'survey', 'a'.repeat(60), ...known]);
    };
    const objectOf = (schema: Schema, depth: number): object => {
      const required = new Set((schema.required ?? []) as readonly string[]);
      const properties = Object.entries((schema.properties ?? {}) as Readonly<Record<string, Schema>>);
      const kept = properties.filter(([name]) => (required.has(name) ? below(20) > 0 : below(2) === 0));
      const extra = below(25) === 0 ? { [`k${below(9)}`]: pick(STRANGE) } : {};
      return {
        ...Object.fromEntries(kept.map(([name, part]) => [name, depth > 6 ? null : valueFor(part, depth + 1)])),
        ...extra,
      };
    };
    const textOf = (schema: Schema): string => {
      const value = valueFor(schema);
      return typeof value === 'object' ? 'x' : String(value);
    };
    const at = (place: Parameter['in']) => operation.parameters.filter((parameter) => parameter.in === place);
    const filled = at('path').reduce(
      (address, { name, schema }) =>
        address.replace(`{${name}}`, encodeURIComponent(wellFormed(textOf(schema))) || 'x'),
      path,
    );
    const query = at('query').flatMap(({ name, required, schema }) =>
      required || below(3) === 0 ? [[name, wellFormed(textOf(schema))] as [string, string]] : [],
    );
    const [json] = Object.values(operation.requestBody?.content ?? {});
    yield {
      operation: `${method} ${path}`,
      method,
      path: `${filled}${query.length > 0 ? `?${new URLSearchParams(query)}` : ''}`,
      headers: pick(HEADERS),
      body: json ? valueFor(json.schema) : undefined,
    };
  }
}

const resolve = (schema: Schema): Schema => {
  const name = typeof schema.$ref === 'string' ? schema.$ref.split('/').at(-1) : undefined;
  return name ? (document.components.schemas[name] ?? {}) : schema;
};

const wellFormed = (text: string): string => text.replace(/[\ud800-\udfff]/g, '?').slice(0, 1_000);
