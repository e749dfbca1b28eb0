import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { catalogueOf, type Field } from '../../facts/field.ts';
import type { FactValue } from '../../facts/value.ts';
import { factsOf } from '../../testing/builders.ts';
import { dayFromNumber } from '../../time/day.ts';
import type { Criterion, Term } from '../criterion.ts';
import { evaluate } from '../evaluate.ts';
import type { Kleene } from '../kleene.ts';
import { Budget } from './budget.ts';
import { allOf, contrary, isTrue } from './claim.ts';
import { satisfy } from './satisfy.ts';
import type { Subject } from './variable.ts';

const TODAY = 20_000;
const day = (plus: number): string => dayFromNumber(TODAY + plus);
const choices = ['a', 'b', 'c'].map((id) => ({ id, name: id }));

const FIELDS: readonly Field[] = [
  { id: 'number', name: 'Number', holder: 'deal', type: 'number', min: 0, max: 3 },
  { id: 'other', name: 'Other number', holder: 'deal', type: 'number', min: 0, max: 3 },
  { id: 'date', name: 'Date', holder: 'deal', type: 'date', firstDay: day(-2), lastDay: day(5) },
  { id: 'later', name: 'Later', holder: 'deal', type: 'date', firstDay: day(-2), lastDay: day(5) },
  { id: 'free', name: 'Any day', holder: 'deal', type: 'date' },
  { id: 'yes', name: 'Yes', holder: 'deal', type: 'yes_no' },
  { id: 'choice', name: 'Choice', holder: 'deal', type: 'choice', choices },
  { id: 'list', name: 'List', holder: 'deal', type: 'choices', choices },
  { id: 'text', name: 'Text', holder: 'deal', type: 'text' },
  { id: 'link', name: 'Link', holder: 'deal', type: 'link' },
  { id: 'cost', name: 'Cost', holder: 'deal', type: 'money' },
  { id: 'price', name: 'Price', holder: 'deal', type: 'money' },
  { id: 'ratio', name: 'Ratio', holder: 'deal', type: 'calculated', formula: { kind: 'number', value: 1 } },
];
const SUBJECT: Subject = { catalogue: catalogueOf(FIELDS), resultsOf: () => [], currency: 'GBP', today: TODAY };

const field = (id: string) => ({ of: 'field' as const, field: id });
const value = (of: FactValue): Term => ({ of: 'value', value: of });

/** All values of each field: numbers by quarters, and lists of what there is. */
const VALUES: Readonly<Record<string, readonly FactValue[]>> = {
  number: Array.from({ length: 13 }, (_, quarter) => quarter / 4),
  other: Array.from({ length: 13 }, (_, quarter) => quarter / 4),
  date: Array.from({ length: 8 }, (_, plus) => day(plus - 2)),
  later: Array.from({ length: 8 }, (_, plus) => day(plus - 2)),
  yes: [true, false],
  choice: ['a', 'b', 'c'],
  list: [['a'], ['b'], ['c'], ['a', 'b'], ['a', 'c'], ['b', 'c'], ['a', 'b', 'c']],
};
/** Later than this nothing changes: every day that is named has passed, whatever is added to today. */
const DAYS = Array.from({ length: 14 }, (_, plus) => TODAY + plus);

const comparison = fc.constantFrom('equals', 'differs', 'more', 'at_least', 'less', 'at_most');
const aNumber = fc.integer({ min: 0, max: 3 });
const aDay = fc.oneof(
  fc.integer({ min: -2, max: 5 }).map((plus): Term => value(day(plus))),
  fc.integer({ min: -3, max: 3 }).map((plus): Term => ({ of: 'today', plus })),
);
const some = fc.subarray(['a', 'b', 'c'], { minLength: 1 });

/** Comparisons, and gaps: more than one and less than the next. */
const onNumbers = (left: string, right: fc.Arbitrary<Term>) =>
  fc.oneof(
    fc.record({ kind: comparison, left: fc.constant(field(left)), right }),
    fc.record({ kind: fc.constant('between'), left: fc.constant(field(left)), low: right, high: right }),
    fc.tuple(right, right).map(([low, high]) => ({
      kind: 'all',
      of: [
        { kind: 'more', left: field(left), right: low },
        { kind: 'less', left: field(left), right: high },
      ],
    })),
  );
const LEAVES: Readonly<Record<string, fc.Arbitrary<unknown>>> = {
  number: onNumbers('number', aNumber.map(value)),
  other: onNumbers('other', fc.oneof(aNumber.map(value), fc.constant<Term>(field('number')))),
  date: onNumbers('date', aDay),
  later: onNumbers('later', fc.oneof(aDay, fc.constant<Term>(field('date')))),
  yes: fc.record({ kind: fc.constant('equals'), left: fc.constant(field('yes')), right: fc.boolean().map(value) }),
  choice: fc.record({ kind: fc.constantFrom('one_of', 'none_of'), left: fc.constant(field('choice')), values: some }),
  list: fc.record({
    kind: fc.constantFrom('includes_any', 'includes_all', 'includes_none'),
    left: fc.constant(field('list')),
    values: some,
  }),
};

/** A tree over these fields. */
const treeOver = (fields: readonly string[]): fc.Arbitrary<Criterion> => {
  const leaf = fc.oneof(
    ...fields.map((id) => LEAVES[id] as fc.Arbitrary<Criterion>),
    fc.record({ kind: fc.constantFrom('set' as const, 'unset' as const), left: fc.constantFrom(...fields.map(field)) }),
  );
  return fc.letrec<{ tree: Criterion }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      leaf,
      fc.record({
        kind: fc.constantFrom('all' as const, 'any' as const),
        of: fc.array(tie('tree'), { minLength: 1, maxLength: 3 }),
      }),
      fc.record({ kind: fc.constant('not' as const), of: tie('tree') }),
    ),
  })).tree;
};

/** Whether any values, on any day, make the criterion come out so. */
function triedOut(criterion: Criterion, fields: readonly string[], among: readonly Kleene[]): boolean {
  const tries = fields.reduce<readonly Record<string, FactValue>[]>(
    (all, id) => all.flatMap((before) => [null, ...(VALUES[id] ?? [])].map((one) => ({ ...before, [id]: one }))),
    [{}],
  );
  const days = JSON.stringify(criterion).includes('"today"') ? DAYS : [TODAY];
  return days.some((today) =>
    tries.some((values) => among.includes(evaluate(criterion, factsOf(values, { today }), SUBJECT.catalogue).result)),
  );
}

const question = fc
  .constantFrom(
    ['number', 'other'],
    ['date', 'later'],
    ['number', 'yes', 'choice'],
    ['list', 'choice', 'yes'],
    ['date', 'yes'],
  )
  .chain((fields) =>
    fc.record({
      fields: fc.constant(fields),
      criterion: treeOver(fields),
      among: fc.subarray<Kleene>([true, false, null], { minLength: 1 }),
    }),
  );

describe('whether a claim can hold', () => {
  it('is what trying every value out says', () => {
    fc.assert(
      fc.property(question, ({ fields, criterion, among }) => {
        const answer = satisfy({ kind: 'truth', of: criterion, among }, SUBJECT);
        expect(answer.is).toBe(triedOut(criterion, fields, among) ? 'possible' : 'impossible');
      }),
      { numRuns: 600 },
    );
  });

  it('is of a claim or of its contrary, for every criterion', () => {
    fc.assert(
      fc.property(question, ({ criterion }) => {
        const claim = isTrue(criterion);
        expect(satisfy(allOf(claim, contrary(claim)), SUBJECT).is).toBe('impossible');
        expect([satisfy(claim, SUBJECT).is, satisfy(contrary(claim), SUBJECT).is]).toContain('possible');
      }),
    );
  });

  it('of texts is what trying out every short one says', () => {
    const written = everyText('abc', 7);
    const part = fc.constantFrom('a', 'b', 'ab', 'ba', 'aa', 'B');
    const leaf = fc.oneof(
      fc.record({
        kind: fc.constantFrom('contains' as const, 'starts_with' as const),
        left: fc.constant(field('text')),
        text: part,
      }),
      fc.record({
        kind: fc.constant('one_of' as const),
        left: fc.constant(field('text')),
        values: fc.array(part, { minLength: 1, maxLength: 2 }),
      }),
    );
    const tree = fc.array(
      fc.oneof(
        leaf,
        leaf.map((of) => ({ kind: 'not' as const, of })),
      ),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(tree, (of) => {
        const criterion: Criterion = { kind: 'all', of };
        const isPossible = written.some(
          (text) => evaluate(criterion, factsOf({ text }), SUBJECT.catalogue).result === true,
        );
        expect(satisfy(isTrue(criterion), SUBJECT).is).toBe(isPossible ? 'possible' : 'impossible');
      }),
    );
  });

  it.each<[string, readonly Criterion[], string]>([
    ['an address begins as addresses do', [{ kind: 'starts_with', left: field('link'), text: 'ftp' }], 'impossible'],
    ['and has parts', [{ kind: 'contains', left: field('link'), text: 'plans' }], 'possible'],
    ['but no gap', [{ kind: 'contains', left: field('link'), text: 'our plans' }], 'impossible'],
    [
      'no number of 15 digits lies between neighbours',
      [
        { kind: 'more', left: field('number'), right: value(1) },
        { kind: 'less', left: field('number'), right: value(1.00000000000001) },
      ],
      'impossible',
    ],
    [
      'nor any amount between a penny and the next',
      [
        { kind: 'more', left: field('cost'), right: value({ minor: 100, currency: 'GBP' }) },
        { kind: 'less', left: field('cost'), right: value({ minor: 101, currency: 'GBP' }) },
      ],
      'impossible',
    ],
    [
      'an amount against two currencies hangs on rates',
      [
        { kind: 'more', left: field('cost'), right: value({ minor: 100, currency: 'GBP' }) },
        { kind: 'less', left: field('cost'), right: value({ minor: 1, currency: 'EUR' }) },
      ],
      'undecided',
    ],
    [
      'and so may two amounts',
      [
        { kind: 'more', left: field('cost'), right: field('price') },
        { kind: 'less', left: field('cost'), right: field('price') },
      ],
      'undecided',
    ],
    [
      'a day in the past and one to come',
      [
        { kind: 'less', left: field('date'), right: value(day(0)) },
        { kind: 'at_least', left: field('date'), right: { of: 'today', plus: 0 } },
      ],
      'impossible',
    ],
    [
      'a day that is past only when today is later',
      [
        { kind: 'more', left: field('free'), right: value(day(2)) },
        { kind: 'less', left: field('free'), right: { of: 'today', plus: 0 } },
      ],
      'possible',
    ],
    [
      'one of two that are named together, not both',
      [
        { kind: 'includes_any', left: field('list'), values: ['a', 'b'] },
        { kind: 'not', of: { kind: 'includes_all', left: field('list'), values: ['a', 'b'] } },
      ],
      'possible',
    ],
    [
      'a count below none',
      [{ kind: 'less', left: { of: 'journey', fact: 'days_in_stage' }, right: value(0) }],
      'impossible',
    ],
    ['a calculated number comes to anything', [{ kind: 'more', left: field('ratio'), right: value(9) }], 'possible'],
    ['what is gone is never so', [{ kind: 'set', left: field('gone') }], 'impossible'],
  ])('%s', (_what, of, is) => {
    expect(satisfy(isTrue({ kind: 'all', of }), SUBJECT).is).toBe(is);
  });

  it('gives up within its steps, and says so', () => {
    // Pigeons and holes: three days for four dates that all differ cannot be, and no way of trying is short for many.
    const pigeon = (bird: number): string => `p${bird}`;
    const catalogue = catalogueOf(
      Array.from(
        { length: 12 },
        (_, bird): Field => ({
          id: pigeon(bird),
          name: pigeon(bird),
          holder: 'deal',
          type: 'choice',
          choices: Array.from({ length: 11 }, (_hole, id) => ({ id: `h${id}`, name: `h${id}` })),
        }),
      ),
    );
    const pairs = Array.from({ length: 12 }, (_, a) =>
      Array.from({ length: a }, (_before, b) => [a, b] as const),
    ).flat();
    const claim = allOf(
      ...pairs.map(([a, b]) => isTrue({ kind: 'differs', left: field(pigeon(a)), right: field(pigeon(b)) })),
    );
    expect(satisfy(claim, { ...SUBJECT, catalogue }, new Budget(20_000))).toEqual({ is: 'undecided', why: 'steps' });
  });
});

function everyText(letters: string, longest: number): readonly string[] {
  let last = [...letters];
  const all = [...last];
  for (let length = 2; length <= longest; length++) {
    last = last.flatMap((text) => [...letters].map((letter) => text + letter));
    all.push(...last);
  }
  return all;
}
