import { readFileSync } from 'node:fs';
import { processDocumentSchema } from '@ladder/contract';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect, it } from 'vitest';
import { DOCUMENT } from '../testing/testServer.ts';

const published = JSON.parse(
  readFileSync(new URL('../../../docs/process-document.schema.json', import.meta.url), 'utf8'),
);

it('the published JSON Schema is the one requests are checked by, and takes a real document', () => {
  expect(published).toEqual(processDocumentSchema());
  const check = new Ajv2020({ strict: false }).compile(published);
  expect(check(DOCUMENT)).toBe(true);
  expect(check({ ...DOCUMENT, skips: 'sometimes' })).toBe(false);
});
