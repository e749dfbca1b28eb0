import { type JsonSchema, namedSchemas } from './schema.ts';

/** The JSON Schema of a process document, on its own: the form that is stored, and that files have. */
export const processDocumentSchema = (): JsonSchema =>
  schemaOf('ProcessDocument', 'Process document', ['Criterion', 'Value', 'Money']);

/** The JSON Schema of a process as a file: its document, with what it needs of what all processes share. */
export const processFileSchema = (): JsonSchema =>
  schemaOf('ProcessFile', 'Process file', ['ProcessDocument', 'Criterion', 'Value', 'Money', 'Formula']);

function schemaOf(name: string, title: string, used: readonly string[]): JsonSchema {
  const own = (json: unknown): unknown =>
    JSON.parse(JSON.stringify(json).replaceAll('#/components/schemas/', '#/$defs/'));
  const defs = Object.fromEntries(used.map((one) => [one, own(namedSchemas.get(one)?.json)]));
  const root = own(namedSchemas.get(name)?.json) as JsonSchema;
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', title, ...root, $defs: defs };
}
