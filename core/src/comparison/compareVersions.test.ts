import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { canonicalText } from '../canonicalText.ts';
import type { ProcessDocument } from '../processes/document.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { CATALOGUE, documentOf, needs, stage } from '../testing/builders.ts';
import { guided, result } from '../testing/steps.ts';
import { type ComparedStage, compareVersions, differs } from './compareVersions.ts';

const compare = (before: ProcessDocument, after: ProcessDocument) =>
  compareVersions(
    { document: before, catalogue: CATALOGUE, nameOf: () => undefined },
    { document: after, catalogue: CATALOGUE, nameOf: () => undefined },
  );
const of = (stages: readonly ComparedStage[], id: string) => stages.find((one) => one.id === id);
const area: Requirement = {
  id: 'area',
  level: 'hold',
  binds: 'at_move',
  kind: 'criterion',
  criterion: { kind: 'at_least', left: { of: 'field', field: 'area' }, right: { of: 'value', value: 200 } },
};

describe('two versions', () => {
  it('stand on one ladder: what was added, removed, renamed and moved, and nothing else', () => {
    const before = documentOf(['A', 'B', 'C', 'D'].map((id) => stage(id)));
    const after = documentOf([stage('D'), stage('A', { name: 'Alpha' }), stage('N'), stage('C')]);
    const { stages } = compare(before, after);
    expect(
      stages.map(({ id, was, moved, placeBefore, placeAfter }) => [id, was, moved, placeBefore, placeAfter]),
    ).toEqual([
      ['D', 'kept', true, 4, 1],
      ['A', 'kept', false, 1, 2],
      ['B', 'removed', false, 2, null],
      ['N', 'added', false, null, 3],
      ['C', 'kept', false, 3, 4],
    ]);
    expect(of(stages, 'A')?.differences).toEqual([{ part: 'name', name: null, before: 'A', after: 'Alpha' }]);
    expect(of(stages, 'C')?.differences).toEqual([]);
  });

  it('tell what is asked as sentences, before and after', () => {
    const appliesWhen = { kind: 'one_of', left: { of: 'field', field: 'crop' }, values: ['herbs'] } as const;
    const before = documentOf([stage('A', { enter: [area, needs('crop', 'crop')], chance: 10 })]);
    const after = documentOf([
      stage('A', { enter: [{ ...area, level: 'flag', appliesWhen }], leave: [needs('crop', 'crop')], chance: 20 }),
    ]);
    expect(of(compare(before, after).stages, 'A')?.differences).toEqual([
      { part: 'chance', name: null, before: '10%', after: '20%' },
      { part: 'enter', name: null, before: 'Crop is filled; holds, must stay so', after: null },
      {
        part: 'enter',
        name: null,
        before: 'Glazed area is at least 200\u00a0m²; holds, judged at the move',
        after: 'Glazed area is at least 200\u00a0m²; flags, judged at the move; only where Crop is one of Herbs',
      },
      { part: 'leave', name: null, before: null, after: 'Crop is filled; holds, must stay so' },
    ]);
  });

  it('tell of a step only what of it is otherwise, and its place among the others', () => {
    const steps = [guided('call'), guided('visit')];
    const changed = guided('call', { results: [result('done', { to: 'move_on' })] });
    const before = documentOf([stage('A', { steps }), stage('B')]);
    const after = documentOf([stage('A', { steps: [guided('visit'), changed] }), stage('B')]);
    expect(of(compare(before, after).stages, 'A')?.differences).toEqual([
      { part: 'steps', name: 'call: results', before: 'done: then visit', after: 'done: moves the deal on to B' },
      { part: 'steps', name: 'Order', before: 'call, visit', after: 'visit, call' },
    ]);
  });

  it('tell a stage that is new with all that it asks', () => {
    const { stages } = compare(documentOf([stage('A')]), documentOf([stage('A'), stage('B', { enter: [area] })]));
    expect(of(stages, 'B')?.differences.map(({ before, after }) => [before, after])).toEqual([
      [null, 'Glazed area is at least 200\u00a0m²; holds, judged at the move'],
    ]);
  });

  const field = fc.constantFrom('area', 'crop', 'notes');
  const requirement = fc
    .record({
      id: fc.constantFrom('r1', 'r2'),
      field,
      level: fc.constantFrom('hold' as const, 'flag' as const),
      binds: fc.constantFrom('at_move' as const, 'must_stay' as const),
    })
    .map(({ id, field: asked, ...more }) => needs(id, asked, more));
  const requirements = fc.uniqueArray(requirement, { maxLength: 2, selector: ({ id }) => id });
  const aStage = fc
    .record({
      id: fc.constantFrom('A', 'B', 'C'),
      more: fc.record({
        name: fc.constantFrom('One', 'Two'),
        purpose: fc.constantFrom('', 'why'),
        chance: fc.integer({ min: 0, max: 2 }),
        target: fc.constantFrom(
          null,
          { days: 3, counting: 'working' as const },
          { days: 3, counting: 'calendar' as const },
        ),
        idleDays: fc.constantFrom(null, 7),
        enter: requirements,
        leave: requirements,
        checklist: fc.constantFrom(
          [],
          [{ id: 'i', text: 'Seen', need: 'must' as const, level: 'hold' as const, afterReturn: 'keep' as const }],
          [{ id: 'i', text: 'Seen', need: 'must' as const, level: 'flag' as const, afterReturn: 'again' as const }],
        ),
        steps: fc.constantFrom(
          [],
          [guided('s')],
          [guided('s', { afterReturn: 'again' })],
          [guided('s', { captures: [{ field: 'area', need: 'may' }] })],
        ),
      }),
    })
    .map(({ id, more }) => stage(id, more));
  const document = fc
    .record({
      stages: fc.uniqueArray(aStage, { minLength: 1, maxLength: 3, selector: ({ id }) => id }),
      purpose: fc.constantFrom('', 'All'),
      skips: fc.constantFrom('allow' as const, 'hold' as const),
    })
    .map(({ stages, ...more }) => documentOf(stages, more));

  it('differ where anything in them does, and else not: nothing is left unsaid', () => {
    fc.assert(
      fc.property(document, document, (before, after) => {
        expect(differs(compare(before, after))).toBe(canonicalText(before) !== canonicalText(after));
        expect(differs(compare(after, JSON.parse(JSON.stringify(after))))).toBe(false);
      }),
      { numRuns: 500 },
    );
  });

  it('compared the other way round tell the same, the other way round', () => {
    fc.assert(
      fc.property(document, document, (before, after) => {
        const [there, back] = [compare(before, after), compare(after, before)];
        const turned = { added: 'removed', removed: 'added', kept: 'kept' } as const;
        for (const { id, was, differences } of there.stages) {
          const other = of(back.stages, id);
          expect(other?.was).toBe(turned[was]);
          expect(other?.differences.map((one) => [one.after, one.before]).sort()).toEqual(
            differences.map((one) => [one.before, one.after]).sort(),
          );
        }
      }),
    );
  });
});
