import { BUILT_IN_FIELDS, type Criterion, catalogueOf, checkCriterion, type Operand } from '@ladder/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  conditionsOf,
  fromQuery,
  operandFromKey,
  operandKey,
  startingCriterion,
  startingValue,
  toQuery,
} from './criterionQuery.ts';

const catalogue = catalogueOf(BUILT_IN_FIELDS);
const left = { of: 'field', field: 'close_date' } as const;

const leaf: fc.Arbitrary<Criterion> = fc.oneof(
  fc.constantFrom<Criterion>(
    { kind: 'set', left },
    { kind: 'contains', left: { of: 'field', field: 'source' }, text: 'x' },
    { kind: 'one_of', left: { of: 'field', field: 'owner' }, values: ['a', 'b'] },
  ),
  fc.integer({ min: -9, max: 9 }).map((plus): Criterion => ({ kind: 'less', left, right: { of: 'today', plus } })),
  fc.integer({ min: 0, max: 9 }).map(
    (days): Criterion => ({
      kind: 'at_least',
      left: { of: 'journey', fact: 'days_in_stage' },
      right: { of: 'value', value: days },
    }),
  ),
  fc.constant<Criterion>({ kind: 'between', left, low: { of: 'today', plus: 0 }, high: { of: 'today', plus: 60 } }),
);

/** Trees in the form in which they are written down: no group of one. */
const tree: fc.Arbitrary<Criterion> = fc.letrec<{ tree: Criterion }>((tie) => ({
  tree: fc.oneof(
    { depthSize: 'small' },
    leaf,
    fc.record({
      kind: fc.constantFrom('all' as const, 'any' as const),
      of: fc.array(tie('tree'), { minLength: 2, maxLength: 3 }),
    }),
    leaf.map((of): Criterion => ({ kind: 'not', of })),
  ),
})).tree;

describe('the query builder over our tree', () => {
  it('gives back every tree it is given', () => {
    fc.assert(
      fc.property(tree, (criterion) => {
        expect(fromQuery(toQuery(criterion))).toEqual(criterion);
      }),
      { numRuns: 500 },
    );
  });

  it('begins with a criterion that can be saved', () => {
    expect(checkCriterion(startingCriterion(catalogue), catalogue, '', () => undefined)).toEqual([]);
  });

  it('has a starting value for every condition it offers, and names operands both ways', () => {
    const operands: readonly Operand[] = [
      ...BUILT_IN_FIELDS.map(({ id }): Operand => ({ of: 'field', field: id })),
      { of: 'journey', fact: 'close_date_moves' },
      { of: 'step', step: 's', what: 'result' },
      { of: 'step', step: 's', what: 'day' },
      { of: 'activities', activity: 'call', within: 'stay' },
      { of: 'documents', document: '0190-d' },
    ];
    for (const operand of operands) {
      expect(operandFromKey(operandKey(operand))).toEqual(operand);
      for (const kind of conditionsOf(operand, catalogue)) {
        const query = {
          combinator: 'and',
          rules: [{ field: operandKey(operand), operator: kind, value: startingValue(operand, kind, catalogue) }],
        };
        const problems = checkCriterion(fromQuery(query), catalogue, '', () => 'known');
        expect(problems.every(({ detail }) => /^(Give|Choose)/.test(detail))).toBe(true);
      }
    }
  });
});
