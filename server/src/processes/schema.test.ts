import { readFileSync } from 'node:fs';
import { processDocumentSchema, processFileSchema } from '@ladder/contract';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect, it } from 'vitest';
import { DOCUMENT, FIELDS } from '../testing/testServer.ts';

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

it('so is that of files', () => {
  const published = fromDocs('process-file.schema.json') as object;
  expect(published).toEqual(processFileSchema());
  const check = new Ajv2020({ strict: false }).compile(published);
  const file = {
    format: 1,
    process: DOCUMENT,
    fields: FIELDS,
    documentKinds: [],
    reasons: [],
    calendar: { name: 'Usual', workingWeekdays: [1, 2, 3, 4, 5], holidays: ['2026-12-25'] },
  };
  expect(check(file)).toBe(true);
  expect(check({ ...file, process: { ...DOCUMENT, skips: 'sometimes' } })).toBe(false);
});
