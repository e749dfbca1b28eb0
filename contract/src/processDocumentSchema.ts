import { type JsonSchema, namedSchemas } from './schema.ts';

const USED = ['Criterion', 'Value', 'Money'];

/** The JSON Schema of a process document, on its own: the form that is stored, and that imports and exports use. */
export function processDocumentSchema(): JsonSchema {
  const own = (json: unknown): unknown =>
    JSON.parse(JSON.stringify(json).replaceAll('#/components/schemas/', '#/$defs/'));
  const defs = Object.fromEntries(USED.map((name) => [name, own(namedSchemas.get(name)?.json)]));
  const root = own(namedSchemas.get('ProcessDocument')?.json) as JsonSchema;
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', title: 'Process document', ...root, $defs: defs };
}
