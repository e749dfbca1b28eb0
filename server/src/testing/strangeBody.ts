import type { JsonSchema } from '@ladder/contract';
import fc from 'fast-check';

/** A body that fits the schema at first sight, with some of its parts replaced by anything. */
export function strangeBody(json: JsonSchema, ids: readonly string[] = []): fc.Arbitrary<unknown> {
  const properties = (json.properties ?? {}) as Readonly<Record<string, JsonSchema>>;
  const anything = fc.jsonValue({ maxDepth: 2 });
  const plausible = (part: JsonSchema): fc.Arbitrary<unknown> => {
    if (Array.isArray(part.enum)) return fc.constantFrom(...part.enum);
    if (part.format === 'uuid') return fc.constantFrom(...ids, '00000000-0000-4000-8000-000000000000');
    if (part.type === 'integer') return fc.oneof(fc.integer({ min: -3, max: 10 }), fc.maxSafeInteger());
    if (part.type === 'boolean') return fc.boolean();
    if (part.type === 'array') return fc.array(plausible((part.items ?? {}) as never), { maxLength: 3 });
    if (part.type === 'object' || part.$ref) return fc.oneof(anything, fc.dictionary(fc.string(), anything));
    return fc.oneof(
      fc.constantFrom('x', '2026-02-30', 'GBP', 'area', 'brief', '\u0000', '\ud83c', '🌿', ''),
      fc.string(),
    );
  };
  return fc.record(
    Object.fromEntries(
      Object.entries(properties).map(([name, part]) => [
        name,
        fc.oneof({ weight: 4, arbitrary: plausible(part) }, { weight: 1, arbitrary: anything }),
      ]),
    ),
    { requiredKeys: [] },
  );
}
