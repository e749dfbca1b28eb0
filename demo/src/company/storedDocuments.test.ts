import { readFileSync } from 'node:fs';
import type { StageId } from '@ladder/core';
import {
  assembleGate,
  BUILT_IN_FIELDS,
  catalogueOf,
  changedRequirements,
  checkDocument,
  DOCUMENT_FORMAT,
  dayNumber,
  diffDocuments,
  type GateFacts,
  judgeGate,
  type ProcessDocument,
  type Requirement,
  readDocument,
  routeTo,
  type StoredDocument,
  type Values,
} from '@ladder/core';
import { describe, expect, it } from 'vitest';
import { FIELDS } from './fields.ts';
import { NEW_BUILD, NEW_BUILD_FIRST } from './newBuild.ts';
import { RETROFIT } from './retrofit.ts';

/*
 * Documents as the program stored them when they had no format number yet (`format1.json`), with what its gates then
 * answered for three deals: one with nothing filled in, one half filled, one with everything filled and ticked.
 */

type Verdict = readonly [stage: string, target: string, deal: number, answer: string, states: string];
interface Kept {
  readonly cases: readonly Values[];
  readonly documents: readonly { readonly document: StoredDocument; readonly verdicts: readonly Verdict[] }[];
}

const kept = JSON.parse(readFileSync(new URL('format1.json', import.meta.url), 'utf8')) as Kept;
const catalogue = catalogueOf([...BUILT_IN_FIELDS, ...FIELDS]);
const TODAY = 20_410;

const factsOf = (document: ProcessDocument, deal: number): GateFacts => ({
  values: kept.cases[deal] ?? {},
  enteredDay: dayNumber('2024-10-04'),
  lastActivityDay: dayNumber('2025-01-12'),
  at: TODAY * 86_400_000,
  zone: 'UTC',
  today: TODAY,
  rateOf: () => undefined,
  currencyOf: { deal: 'GBP', customer: 'GBP', contact: 'GBP' },
  ticked: new Set(deal === 2 ? document.stages.flatMap(({ checklist }) => checklist.map(({ id }) => id)) : []),
  closeDateMoves: 0,
  activityCounts: { ever: null, stay: null },
  documentCounts: null,
  stepsFinished: new Set(),
  stepResults: {},
  waived: new Set(),
  waivers: [],
});

function judged(document: ProcessDocument, [from, to, deal]: Verdict): readonly [string, string] {
  const target = document.outcomes.some(({ id }) => id === to)
    ? ({ to: 'outcome', outcome: to } as const)
    : ({ to: 'stage', stage: to as StageId } as const);
  const route = routeTo(document, from as StageId, target);
  if (!route.ok) throw new Error(route.error.code);
  const { answer, items } = judgeGate(
    assembleGate(document, from as StageId, target, route.value),
    factsOf(document, deal),
    catalogue,
  );
  return [answer, items.map(({ item, state }) => `${item.id} ${state}`).join(', ')];
}

describe('documents that an earlier program stored', () => {
  it.each(kept.documents.map(({ document }, place) => [document.name, place] as const))(
    'are read, judged and compared as before: %s, %i',
    (_name, place) => {
      const { document: stored, verdicts } = kept.documents[place] ?? { document: RETROFIT, verdicts: [] };
      const document = readDocument(stored);
      expect(document.format).toBe(DOCUMENT_FORMAT);
      expect(checkDocument(document, catalogue, () => undefined)).toEqual([]);
      expect(verdicts.length).toBeGreaterThan(50);
      for (const verdict of verdicts) expect(judged(document, verdict)).toEqual(verdict.slice(3));
    },
  );

  it('differ from the same ones as they are written today by steps, tasks and who won instead, and what asks for them, alone', () => {
    const [first, second, retrofit] = kept.documents.map(({ document }) => readDocument(document));
    for (const [stored, today] of [
      [first, NEW_BUILD_FIRST],
      [second, NEW_BUILD],
      [retrofit, RETROFIT],
    ] as const) {
      const withoutSteps = (requirements: readonly Requirement[]) =>
        requirements.filter(({ kind }) => !['steps', 'step', 'activities'].includes(kind));
      const stages = today.stages.map((stage) => ({
        ...stage,
        steps: [],
        arrival: [],
        enter: withoutSteps(stage.enter),
        leave: withoutSteps(stage.leave),
      }));
      const outcomes = today.outcomes.map((outcome) =>
        outcome.counts === 'lost' ? { ...outcome, requirements: [] } : outcome,
      );
      const bare = { ...today, stages, outcomes, taskSets: [], sections: stored?.sections ?? [] };
      expect(stored && diffDocuments(stored, bare)).toEqual([]);
      expect(stored && changedRequirements(stored, bare)).toEqual({});
    }
  });

  it('are left as they are where they are of today, and refused where they are of a newer program', () => {
    expect(readDocument(RETROFIT)).toBe(RETROFIT);
    const newer = { ...RETROFIT, format: 99 } as unknown as StoredDocument;
    expect(() => readDocument(newer)).toThrow('newer program');
  });
});
