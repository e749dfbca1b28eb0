import { readFileSync } from 'node:fs';
import { processDocumentSchema } from '@ladder/contract';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect, it } from 'vitest';
import { DOCUMENT } from '../testing/testServer.ts';

const fromDocs = (name: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../../docs/${name}`, import.meta.url), 'utf8'));

it('the published JSON Schema is the one requests are checked by, and takes real documents', () => {
  const published = fromDocs('process-document.schema.json') as object;
  expect(published).toEqual(processDocumentSchema());
  const check = new Ajv2020({ strict: false }).compile(published);
  expect(check(DOCUMENT)).toBe(true);
  expect(check(fromDocs('example-process.json'))).toBe(true);
  expect(check({ ...DOCUMENT, skips: 'sometimes' })).toBe(false);
});
