import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { StageId } from '../ids.ts';
import { describeItem } from '../requirements/describeItem.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { CATALOGUE, documentOf, factsOf, LOST, must, needs, stage, WON, wonAsking } from '../testing/builders.ts';
import { assembleGate } from './assemble.ts';
import { compileGate } from './compileGate.ts';
import { type MoveTarget, routeTo } from './route.ts';
import { judgeGate } from './verdict.ts';

const area: Requirement = {
  id: 'area',
  level: 'hold',
  binds: 'at_move',
  kind: 'criterion',
  criterion: { kind: 'at_least', left: { of: 'field', field: 'area' }, right: { of: 'value', value: 200 } },
};
const tick = { id: 'tick', text: 'Layout reviewed', need: 'must', level: 'hold', afterReturn: 'keep' } as const;
const document = documentOf(
  [
    stage('a', {
      leave: [needs('leaves', 'survey', { level: 'flag' })],
      checklist: [tick, { ...tick, id: 'extra', need: 'optional' }],
    }),
    stage('b', {
      enter: [
        area,
        needs('crop', 'crop', {
          appliesWhen: { kind: 'equals', left: { of: 'field', field: 'paid' }, right: { of: 'value', value: true } },
        }),
      ],
    }),
    stage('c', { enter: [needs('notes', 'notes')], checklist: [{ ...tick, id: 'tick c' }] }),
  ],
  { outcomes: wonAsking(needs('paid', 'paid')) },
);

const gate = (from: string, target: MoveTarget, doc = document) =>
  assembleGate(doc, from as StageId, target, must(routeTo(doc, from as StageId, target)));
const ids = (from: string, target: MoveTarget, doc = document) =>
  gate(from, target, doc).map(({ id, level, passedOver }) => `${id} ${level}${passedOver ? ' over' : ''}`);
const to = (id: string): MoveTarget => ({ to: 'stage', stage: id as StageId });

describe('what a move asks (S8, S9)', () => {
  it('forward: before leaving, must items, and to enter', () => {
    expect(ids('a', to('b'))).toEqual(['leaves flag', 'tick hold', 'area hold', 'crop hold']);
  });

  it('a skip asks what lies between by the rule of the process', () => {
    expect(ids('a', to('c'), { ...document, skips: 'allow' })).toEqual(['leaves flag', 'tick hold', 'notes hold']);
    expect(ids('a', to('c'), { ...document, skips: 'flag' })).toEqual([
      'leaves flag',
      'tick hold',
      'area flag over',
      'crop flag over',
      'notes hold',
    ]);
    expect(ids('a', to('c'), { ...document, skips: 'hold' })).toEqual([
      'leaves flag',
      'tick hold',
      'area hold over',
      'crop hold over',
      'notes hold',
    ]);
  });

  it('closing as won from the middle passes over the rest, from the last over nothing; as lost never', () => {
    expect(ids('a', WON, { ...document, skips: 'hold' })).toEqual([
      'leaves flag',
      'tick hold',
      'area hold over',
      'crop hold over',
      'notes hold over',
      'tick c hold over',
      'paid hold',
    ]);
    expect(ids('c', WON)).toEqual(['tick c hold', 'paid hold']);
    expect(ids('a', LOST)).toEqual([]);
  });

  it('going back passes no gate, unless the process holds it for a decision', () => {
    expect(ids('c', to('a'))).toEqual([]);
    expect(judgeGate(gate('c', to('a'), { ...document, returns: 'hold' }), factsOf({}), CATALOGUE)).toMatchObject({
      answer: 'holds',
      items: [{ remedy: { kind: 'decide' } }],
    });
  });
});

describe('the verdict', () => {
  it('tells missing from not met, with a remedy for each', () => {
    const verdict = judgeGate(gate('a', to('b')), factsOf({ area: 150, paid: true }), CATALOGUE);
    expect(verdict.answer).toBe('holds');
    expect(verdict.items.map(({ state, remedy }) => [state, remedy])).toEqual([
      ['missing', { kind: 'fill', fields: ['survey'] }],
      ['unmet', { kind: 'tick', item: 'tick' }],
      ['unmet', { kind: 'fill', fields: ['area'] }],
      ['missing', { kind: 'fill', fields: ['crop'] }],
    ]);
  });

  it('an unknown "applies when" applies, and says what to fill; a false one does not apply (S2)', () => {
    const item = (values: Record<string, boolean>) =>
      judgeGate(gate('a', to('b')), factsOf(values), CATALOGUE).items.find((one) => one.item.id === 'crop');
    expect(item({})).toMatchObject({ state: 'missing', mayApply: ['paid'] });
    expect(item({ paid: false })).toMatchObject({ state: 'not_applicable', remedy: { kind: 'none' } });
  });

  it('flags where only flags are open, passes where nothing is', () => {
    const facts = factsOf({ area: 300, crop: 'herbs' }, { ticked: new Set(['tick']) });
    expect(judgeGate(gate('a', to('b')), facts, CATALOGUE).answer).toBe('flags');
    expect(
      judgeGate(gate('a', to('b')), { ...facts, values: { ...facts.values, survey: '2026-11-01' } }, CATALOGUE).answer,
    ).toBe('passes');
    expect(
      judgeGate(gate('a', to('b')), { ...factsOf({}), waived: new Set(['tick', 'area', 'crop', 'leaves']) }, CATALOGUE),
    ).toMatchObject({ answer: 'passes', items: [{ state: 'waived' }, {}, {}, {}] });
  });

  it('says each item in words', () => {
    const words = gate('a', to('b')).map((item) =>
      describeItem(item, CATALOGUE, () => undefined)
        .map(({ text }) => text)
        .join('')
        .replaceAll('\u00a0', ' '),
    );
    expect(words).toEqual([
      'Survey date is filled',
      'Layout reviewed is ticked',
      'Glazed area is at least 200 m²',
      'Crop is filled',
    ]);
  });

  it('compiled, gives the same answer', () => {
    const values = fc.record(
      {
        area: fc.option(fc.integer({ min: 150, max: 250 })),
        survey: fc.constantFrom(null, '', '2026-11-01'),
        crop: fc.constantFrom(null, 'herbs'),
        paid: fc.option(fc.boolean()),
        notes: fc.constantFrom(null, 'x'),
      },
      { requiredKeys: [] },
    );
    const target = fc.constantFrom<MoveTarget>(to('b'), to('c'), WON);
    fc.assert(
      fc.property(
        values,
        fc.subarray(['tick', 'tick c']),
        fc.subarray(['area', 'leaves']),
        target,
        fc.constantFrom('allow' as const, 'flag' as const, 'hold' as const),
        (given, ticked, waived, where, skips) => {
          const items = gate('a', where, { ...document, skips });
          const facts = factsOf(given as never, { ticked: new Set(ticked), waived: new Set(waived) });
          const plain = judgeGate(items, facts, CATALOGUE);
          const compiled = compileGate(items, CATALOGUE);
          expect(compiled.answer(facts)).toBe(plain.answer);
          expect(compiled.missing(facts)).toBe(
            plain.items.filter(({ item, state }) => item.level === 'hold' && (state === 'unmet' || state === 'missing'))
              .length,
          );
        },
      ),
      { numRuns: 600 },
    );
  });
});
