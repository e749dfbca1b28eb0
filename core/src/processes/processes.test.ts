import { describe, expect, it } from 'vitest';
import type { StageId } from '../ids.ts';
import { CATALOGUE, documentOf, must, needs, stage } from '../testing/builders.ts';
import { checkDocument } from './check.ts';
import { askedBy, diffDocuments, touchesGates } from './diff.ts';
import type { ProcessDocument } from './document.ts';
import { applyEdit, type ProcessEdit } from './edit.ts';

const document = documentOf([
  stage('a', { name: 'First' }),
  stage('b', { name: 'Second', enter: [needs('r', 'area')] }),
  stage('c', { name: 'Third' }),
]);
const edit = (change: ProcessEdit) => applyEdit(document, change);
const names = (change: ProcessEdit) => must(edit(change)).stages.map(({ name }) => name);

describe('edits', () => {
  it('add, rename, reorder and remove stages, keeping ids', () => {
    expect(names({ kind: 'add_stage', id: 'n' as StageId, name: ' New ', place: 1 })).toEqual([
      'First',
      'New',
      'Second',
      'Third',
    ]);
    expect(names({ kind: 'move_stage', stage: 'c' as StageId, place: 0 })).toEqual(['Third', 'First', 'Second']);
    expect(names({ kind: 'remove_stage', stage: 'b' as StageId })).toEqual(['First', 'Third']);
    expect(
      must(edit({ kind: 'change_stage', stage: 'b' as StageId, change: { name: 'Site visit' } })).stages[1],
    ).toMatchObject({
      id: 'b',
      name: 'Site visit',
      enter: [{ id: 'r' }],
    });
  });

  it('refuse a name twice, an empty name, a stage that is gone and the last stage', () => {
    expect(edit({ kind: 'add_stage', id: 'n' as StageId, name: 'second', place: 0 })).toEqual({
      ok: false,
      error: { code: 'name_taken', name: 'second' },
    });
    expect(edit({ kind: 'change_stage', stage: 'a' as StageId, change: { name: '  ' } })).toEqual({
      ok: false,
      error: { code: 'no_name' },
    });
    expect(edit({ kind: 'remove_stage', stage: 'x' as StageId })).toEqual({
      ok: false,
      error: { code: 'no_such_stage', stage: 'x' },
    });
    expect(applyEdit(documentOf([stage('a')]), { kind: 'remove_stage', stage: 'a' as StageId })).toEqual({
      ok: false,
      error: { code: 'last_stage' },
    });
  });

  it('put and remove requirements where they belong', () => {
    const put = must(
      edit({ kind: 'put_requirement', place: { at: 'outcome', outcome: 'won' }, requirement: needs('w', 'paid') }),
    );
    expect(put.outcomes[0]?.requirements.map(({ id }) => id)).toEqual(['w']);
    const changed = must(
      edit({ kind: 'put_requirement', place: { at: 'enter', stage: 'b' as StageId }, requirement: needs('r', 'crop') }),
    );
    expect(changed.stages[1]?.enter).toMatchObject([{ id: 'r', field: 'crop' }]);
    expect(
      must(edit({ kind: 'remove_requirement', place: { at: 'enter', stage: 'b' as StageId }, requirement: 'r' }))
        .stages[1]?.enter,
    ).toEqual([]);
  });
});

describe('checking a document', () => {
  it('points at every place that is wrong', () => {
    const bad = documentOf(
      [
        stage('a', { name: 'Same', chance: 101, target: { days: 0, counting: 'calendar' } }),
        stage('b', {
          name: 'same ',
          enter: [needs('r', 'gone'), needs('r', 'area')],
          checklist: [{ id: 'k', text: ' ', need: 'must', level: 'hold', afterReturn: 'keep' }],
        }),
      ],
      { currency: 'XYZ' },
    );
    expect(
      checkDocument(bad, CATALOGUE, () => undefined)
        .map(({ pointer }) => pointer)
        .sort(),
    ).toEqual([
      '/currency',
      '/stages/0/chance',
      '/stages/0/target/days',
      '/stages/1/checklist/0/text',
      '/stages/1/enter/0/field',
      '/stages/1/enter/1/id',
      '/stages/1/name',
    ]);
    expect(checkDocument(document, CATALOGUE, () => undefined)).toEqual([]);
  });

  it('asks for an end of each sort, with a name, and an id that is told from a stage’s', () => {
    const [won, lost] = document.outcomes;
    if (!won || !lost) throw new Error('No outcomes');
    const told = (outcomes: ProcessDocument['outcomes']) =>
      checkDocument({ ...document, outcomes }, CATALOGUE, () => undefined).map(({ pointer }) => pointer);
    expect(told([won])).toEqual(['/outcomes']);
    expect(told([])).toEqual(['/outcomes', '/outcomes']);
    expect(told([won, { ...lost, name: ' ' }])).toEqual(['/outcomes/1/name']);
    expect(told([won, lost, { ...lost, id: 'stage:a' }])).toEqual(['/outcomes/2/id']);
    expect(told([won, lost, { ...lost, name: 'Gone quiet' }])).toEqual(['/outcomes/2/id']);
  });
});

describe('what differs', () => {
  it('matches stages and requirements by id', () => {
    const after = must(
      applyEdit(must(edit({ kind: 'change_stage', stage: 'a' as StageId, change: { name: 'Brief', chance: 20 } })), {
        kind: 'put_requirement',
        place: { at: 'leave', stage: 'c' as StageId },
        requirement: needs('n', 'crop'),
      }),
    );
    const changes = diffDocuments(document, after);
    expect(changes.map(({ kind }) => kind)).toEqual(['stage_renamed', 'chance_changed', 'requirement_added']);
    expect(touchesGates(changes)).toBe(true);
    expect(touchesGates(changes.slice(0, 2))).toBe(false);
    expect(diffDocuments(document, JSON.parse(JSON.stringify(document)))).toEqual([]);
  });

  it('a removed stage takes what it asked with it', () => {
    const changes = diffDocuments(document, must(edit({ kind: 'remove_stage', stage: 'b' as StageId })));
    expect(changes).toEqual([{ kind: 'stage_removed', stage: 'b', name: 'Second' }]);
  });

  it('does not mind in which order a requirement was stored', () => {
    const requirement = document.stages[1]?.enter[0];
    const turned = Object.fromEntries(Object.entries(requirement ?? {}).reverse());
    const after = {
      ...document,
      stages: document.stages.map((one) => (one.id === 'b' ? { ...one, enter: [turned as never] } : one)),
    };
    expect(askedBy(after).get('r')?.text).toBe(askedBy(document).get('r')?.text);
  });
});
