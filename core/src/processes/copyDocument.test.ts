import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../facts/field.ts';
import type { StageId } from '../ids.ts';
import { documentOf, FIELDS, needs, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { checkDocument } from './check.ts';
import { copyDocument } from './copyDocument.ts';

const SURVEY = 'survey' as StageId;
/** A stage, an item, a step and a field are called alike: `survey`. */
const document = documentOf(
  [
    stage('brief', {
      leave: [needs('r1', 'survey'), { id: 'r2', level: 'hold', binds: 'at_move', kind: 'steps', of: 'brief' }],
      checklist: [{ id: 'seen', text: 'Seen', need: 'must', level: 'hold', afterReturn: 'keep' }],
      steps: [
        guided('call', {
          results: [
            result('again', { to: 'step', step: 'call' }),
            result(
              'on',
              { to: 'stage', stage: SURVEY },
              {
                actions: [
                  { do: 'tick', item: 'seen' },
                  { do: 'add_tasks', set: 'set' },
                ],
              },
            ),
          ],
        }),
      ],
      arrival: [{ do: 'add_tasks', set: 'set' }],
    }),
    stage('survey', {
      enter: [
        {
          id: 'r3',
          level: 'hold',
          binds: 'at_move',
          kind: 'criterion',
          criterion: {
            kind: 'all',
            of: [
              { kind: 'one_of', left: { of: 'step', step: 'call', what: 'result' }, values: ['on'] },
              { kind: 'set', left: { of: 'field', field: 'survey' } },
            ],
          },
        },
        { id: 'r4', level: 'hold', binds: 'at_move', kind: 'step', step: 'call', results: ['on'] },
      ],
    }),
  ],
  {
    taskSets: [
      {
        id: 'set',
        name: 'Set',
        tasks: [{ id: 't', title: 'Do', who: { by: 'owner' }, due: { days: 1, counting: 'working' } }],
        afterReturn: 'keep',
      },
    ],
  },
);

describe('a copy of a document', () => {
  let next = 0;
  const copy = copyDocument(document, 'Copy', () => `new_${next++}`);

  it('is as right as the document, under ids of its own', () => {
    const catalogue = catalogueOf(FIELDS);
    expect(checkDocument(document, catalogue, () => undefined)).toEqual([]);
    expect(checkDocument(copy, catalogue, () => undefined)).toEqual([]);
    const text = JSON.stringify(copy);
    for (const id of ['brief', 'r1', 'r2', 'r3', 'r4', 'seen', 'call', 'set', 't'])
      expect(text).not.toMatch(new RegExp(`"(id|of|step|stage|item|set)":"${id}"`));
  });

  it('takes no field for a stage that is called like it, and keeps ends and results', () => {
    const [brief, survey] = copy.stages;
    expect(brief?.leave[0]).toMatchObject({ kind: 'field', field: 'survey' });
    expect(survey?.enter[0]).toMatchObject({ criterion: { of: [{ values: ['on'] }, { left: { field: 'survey' } }] } });
    expect(brief?.steps[0]?.results.map(({ leads }) => leads)).toEqual([
      { to: 'step', step: brief?.steps[0]?.id },
      { to: 'stage', stage: survey?.id },
    ]);
    expect(copy.outcomes.map(({ id }) => id)).toEqual(['won', 'lost']);
  });
});
