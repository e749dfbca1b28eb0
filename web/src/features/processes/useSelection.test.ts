import type { ProcessDocument, StageId } from '@ladder/core';
import { expect, it } from 'vitest';
import { fromText, type Selection, toText } from './useSelection.ts';

const document = {
  stages: [{ id: 'a' }, { id: 'won' }],
  outcomes: [{ id: 'won' }, { id: 'lost' }],
} as unknown as ProcessDocument;

it.each<Selection>([
  { kind: 'stage', stage: 'a' as StageId },
  { kind: 'stage', stage: 'won' as StageId },
  { kind: 'outcome', outcome: 'won' },
  { kind: 'outcome', outcome: 'lost' },
  { kind: 'process' },
])('%j is read back from the address, also a stage that is called like an outcome', (selection) => {
  expect(fromText(toText(selection), document)).toEqual(selection);
});

it.each([null, '', 'stage:gone', 'anything'])('%j opens the first stage', (text) => {
  expect(fromText(text, document)).toEqual({ kind: 'stage', stage: 'a' });
});
