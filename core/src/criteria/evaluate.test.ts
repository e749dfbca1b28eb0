import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FactValue, Values } from '../facts/value.ts';
import { CATALOGUE, FIELDS, factsOf, rate, TODAY } from '../testing/builders.ts';
import { dayFromNumber } from '../time/day.ts';
import { checkCriterion } from './check.ts';
import { clockDays } from './clockDays.ts';
import { compile } from './compile.ts';
import { type Condition, type Criterion, fieldsReadBy } from './criterion.ts';
import { evaluate } from './evaluate.ts';
import { CONDITIONS_FOR } from './operators.ts';
import { sentence } from './phrase.ts';

const field = (id: string) => ({ of: 'field', field: id }) as const;
const value = (v: FactValue) => ({ of: 'value', value: v }) as const;
const judge = (criterion: Criterion, values: Values, more = {}) =>
  evaluate(criterion, factsOf(values, more), CATALOGUE).result;

describe('a condition', () => {
  it('is unknown over an empty or unrecorded field, but "is filled" is never unknown', () => {
    const atLeast: Criterion = { kind: 'at_least', left: field('area'), right: value(200) };
    expect(judge(atLeast, {})).toBeNull();
    expect(judge(atLeast, { area: null })).toBeNull();
    expect(judge({ kind: 'set', left: field('group') }, { group: [] })).toBe(false);
    expect(judge({ kind: 'unset', left: field('notes') }, { notes: '' })).toBe(true);
  });

  it('carries what is, what is needed and what is missing', () => {
    const explained = evaluate(
      { kind: 'between', left: field('area'), low: value(200), high: field('cost') },
      factsOf({ area: 150 }),
      CATALOGUE,
    );
    expect(explained).toMatchObject({
      kind: 'leaf',
      actual: 150,
      needed: [200, null],
      missing: [field('cost')],
      result: false,
    });
  });

  it('never compares values of two types (S3)', () => {
    expect(judge({ kind: 'less', left: field('area'), right: value(5) }, { area: '9' })).toBeNull();
  });

  it('compares text by NFC and simple case fold', () => {
    expect(judge({ kind: 'equals', left: field('notes'), right: value('Caf\u00e9') }, { notes: 'CAFE\u0301' })).toBe(
      true,
    );
    expect(judge({ kind: 'contains', left: field('notes'), text: 'ΣΊΣΥΦΟΣ' }, { notes: 'ο σίσυφος' })).toBe(true);
  });

  it('compares amounts of two currencies at the rate given, and does not know without one', () => {
    const criterion: Criterion = {
      kind: 'more',
      left: field('value'),
      right: value({ minor: 100_00, currency: 'GBP' }),
    };
    const euros = { value: { minor: 150_00, currency: 'EUR' } };
    expect(judge(criterion, euros)).toBeNull();
    expect(judge(criterion, euros, { rateOf: () => rate('0.8') })).toBe(true);
  });

  it('reads dates relative to today and the journey', () => {
    const soon: Criterion = {
      kind: 'between',
      left: field('close_date'),
      low: { of: 'today', plus: 0 },
      high: { of: 'today', plus: 60 },
    };
    expect(judge(soon, { close_date: dayFromNumber(TODAY + 60) })).toBe(true);
    expect(judge(soon, { close_date: dayFromNumber(TODAY + 61) })).toBe(false);
    expect(judge({ kind: 'more', left: { of: 'journey', fact: 'days_in_stage' }, right: value(9) }, {})).toBe(true);
    const quiet: Criterion = { kind: 'equals', left: { of: 'journey', fact: 'days_since_activity' }, right: value(10) };
    expect(judge(quiet, {}, { lastActivityDay: null })).toBe(true);
  });

  it('reads as a sentence', () => {
    const says = (criterion: Criterion) => sentence(criterion, CATALOGUE, () => undefined).replaceAll('\u00a0', ' ');
    expect(says({ kind: 'at_least', left: field('area'), right: value(4200) })).toBe(
      'Glazed area is at least 4,200 m²',
    );
    expect(says({ kind: 'one_of', left: field('crop'), values: ['tomatoes', 'herbs'] })).toBe(
      'Crop is one of Tomatoes, Herbs',
    );
    expect(
      says({
        kind: 'between',
        left: field('close_date'),
        low: { of: 'today', plus: 0 },
        high: { of: 'today', plus: 60 },
      }),
    ).toBe('Close date is within the next 60 days');
    expect(says({ kind: 'more', left: field('value'), right: value({ minor: 0, currency: 'GBP' }) })).toBe(
      'Value is more than £0',
    );
    expect(
      says({
        kind: 'any',
        of: [
          { kind: 'set', left: field('notes') },
          { kind: 'all', of: [{ kind: 'set', left: field('paid') }] },
        ],
      }),
    ).toBe('Notes is filled or (Deposit paid is filled)');
  });
});

describe('checking a criterion', () => {
  it('points at a field that is gone, a condition that does not fit, and a constant of another type', () => {
    const problems = checkCriterion(
      {
        kind: 'all',
        of: [
          { kind: 'set', left: field('gone') },
          { kind: 'contains', left: field('area'), text: 'x' },
          { kind: 'equals', left: field('survey'), right: value('2026-02-30') },
          { kind: 'any', of: [] },
        ],
      },
      CATALOGUE,
      '',
      () => undefined,
    );
    expect(problems.map(({ pointer }) => pointer)).toEqual(['/of/0/left', '/of/1/kind', '/of/2/right', '/of/3']);
  });
});

/* Random trees over random facts: the compiled closure and the plain evaluator must never differ. */

const constants: Readonly<Record<string, fc.Arbitrary<FactValue>>> = {
  number: fc.integer({ min: -5, max: 5 }),
  date: fc.integer({ min: -4, max: 4 }).map((days) => dayFromNumber(TODAY + days)),
  money: fc.record({ minor: fc.integer({ min: -3, max: 3 }), currency: fc.constantFrom('GBP', 'EUR') }),
  text: fc.constantFrom('A', 'a', 'b', 'Ab', ''),
  yes_no: fc.boolean(),
  choice: fc.constantFrom('tomatoes', 'herbs'),
  choices: fc.subarray(['grower', 'signatory']),
};
const usable = FIELDS.filter(({ type }) => type in constants);
const constantOf = (type: string): fc.Arbitrary<FactValue> => constants[type] ?? fc.constant(null);

const condition: fc.Arbitrary<Condition> = fc.constantFrom(...usable).chain((chosen) =>
  fc.constantFrom(...CONDITIONS_FOR[chosen.type]).chain((kind): fc.Arbitrary<Condition> => {
    const left = fc.constant(field(chosen.id));
    const alike = usable.filter(({ type }) => type === chosen.type).map(({ id }) => field(id));
    const term = fc.oneof(
      constantOf(chosen.type).map(value),
      fc.constantFrom(...alike),
      ...(chosen.type === 'date'
        ? [fc.record({ of: fc.constant('today' as const), plus: fc.integer({ min: -3, max: 3 }) })]
        : []),
    );
    const ids = fc.subarray(['tomatoes', 'herbs', 'grower', 'signatory', 'a']);
    switch (kind) {
      case 'set':
      case 'unset':
        return fc.record({ kind: fc.constant(kind), left });
      case 'between':
        return fc.record({ kind: fc.constant(kind), left, low: term, high: term });
      case 'one_of':
      case 'none_of':
      case 'includes_any':
      case 'includes_all':
      case 'includes_none':
        return fc.record({ kind: fc.constant(kind), left, values: ids });
      case 'contains':
      case 'starts_with':
        return fc.record({ kind: fc.constant(kind), left, text: fc.constantFrom('a', 'B', 'ab') });
      default:
        return fc.record({ kind: fc.constant(kind), left, right: term });
    }
  }),
);

const journey: fc.Arbitrary<Condition> = fc.record({
  kind: fc.constantFrom('equals' as const, 'at_least' as const, 'less' as const),
  left: fc.record({
    of: fc.constant('journey' as const),
    fact: fc.constantFrom('days_in_stage' as const, 'days_since_activity' as const),
  }),
  right: fc.integer({ min: 0, max: 20 }).map(value),
});

const tree: fc.Arbitrary<Criterion> = fc.letrec<{ tree: Criterion }>((tie) => ({
  tree: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    condition,
    journey,
    fc.record({
      kind: fc.constantFrom('all' as const, 'any' as const),
      of: fc.array(tie('tree'), { minLength: 1, maxLength: 3 }),
    }),
    fc.record({ kind: fc.constant('not' as const), of: tie('tree') }),
  ),
})).tree;

const values: fc.Arbitrary<Values> = fc.record(
  Object.fromEntries(usable.map(({ id, type }) => [id, fc.option(constantOf(type), { nil: null })])),
  { requiredKeys: [] },
) as fc.Arbitrary<Values>;

describe('laws', () => {
  it('the compiled criterion gives the answer of the plain one', () => {
    fc.assert(
      fc.property(
        tree,
        values,
        fc.option(fc.integer({ min: 0, max: 12 }), { nil: null }),
        (criterion, given, quiet) => {
          const facts = factsOf(given, {
            lastActivityDay: quiet === null ? null : TODAY - quiet,
            rateOf: (from) => (from === 'EUR' ? rate('0.9') : undefined),
          });
          expect(compile(criterion, CATALOGUE)(facts)).toBe(evaluate(criterion, facts, CATALOGUE).result);
        },
      ),
      { numRuns: 1500 },
    );
  });

  it('truth changes by the clock alone only on the days that are named', () => {
    fc.assert(
      fc.property(tree, values, (criterion, given) => {
        const facts = factsOf(given);
        const named = new Set(clockDays(criterion, facts));
        const truth = (today: number) => evaluate(criterion, { ...facts, today }, CATALOGUE).result;
        for (let day = TODAY + 1; day < TODAY + 30; day++) if (!named.has(day)) expect(truth(day)).toBe(truth(day - 1));
      }),
      { numRuns: 400 },
    );
  });

  it('every tree of fitting parts passes its check unless a part is empty, and names the fields it reads', () => {
    fc.assert(
      fc.property(tree, (criterion) => {
        for (const problem of checkCriterion(criterion, CATALOGUE, '', () => undefined))
          expect(problem.detail).toMatch(/Give|Choose|not one of/);
        for (const id of fieldsReadBy(criterion)) expect(CATALOGUE.has(id)).toBe(true);
      }),
      { numRuns: 300 },
    );
  });
});
