import { describe, expect, it } from 'vitest';
import type { FactValue, Values } from '../facts/value.ts';
import { CATALOGUE, factsOf, rate, TODAY } from '../testing/builders.ts';
import { dayFromNumber } from '../time/day.ts';
import { compile } from './compile.ts';
import type { Comparison, Condition, Criterion } from './criterion.ts';
import { evaluate } from './evaluate.ts';
import type { Kleene } from './kleene.ts';
import { sentence } from './phrase.ts';

const field = (id: string) => ({ of: 'field', field: id }) as const;
const value = (v: FactValue) => ({ of: 'value', value: v }) as const;
const today = (plus: number) => ({ of: 'today', plus }) as const;
const day = (plus: number): string => dayFromNumber(TODAY + plus);
const pounds = (minor: number) => ({ minor, currency: 'GBP' });

/** Evaluated and compiled, which must agree. */
function judge(criterion: Criterion, values: Values, more = {}): Kleene {
  const facts = factsOf(values, more);
  const { result } = evaluate(criterion, facts, CATALOGUE);
  expect(compile(criterion, CATALOGUE)(facts)).toBe(result);
  return result;
}
const say = (criterion: Criterion): string => sentence(criterion, CATALOGUE, () => undefined);

describe('comparing numbers', () => {
  /* Below, at and above the bound, and without a value. */
  it.each<[Comparison, Kleene[]]>([
    ['equals', [false, true, false, null]],
    ['differs', [true, false, true, null]],
    ['more', [false, false, true, null]],
    ['at_least', [false, true, true, null]],
    ['less', [true, false, false, null]],
    ['at_most', [true, true, false, null]],
  ])('%s', (kind, expected) => {
    const criterion: Criterion = { kind, left: field('area'), right: value(200) };
    expect([199.5, 200, 200.5, null].map((area) => judge(criterion, { area }))).toEqual(expected);
  });

  it('a range has both its ends', () => {
    const criterion: Criterion = { kind: 'between', left: field('area'), low: value(100), high: value(200) };
    expect([99, 100, 150, 200, 201, null].map((area) => judge(criterion, { area }))).toEqual([
      false,
      true,
      true,
      true,
      false,
      null,
    ]);
  });

  it('a range with one end unknown is false where the other end says so already', () => {
    const criterion: Criterion = {
      kind: 'between',
      left: field('value'),
      low: field('cost'),
      high: value(pounds(100)),
    };
    expect(judge(criterion, { value: pounds(101) })).toBe(false);
    expect(judge(criterion, { value: pounds(99) })).toBeNull();
    expect(judge(criterion, { value: pounds(99), cost: pounds(99) })).toBe(true);
  });

  it('zero is a value', () => {
    expect(judge({ kind: 'at_most', left: field('area'), right: value(0) }, { area: 0 })).toBe(true);
    expect(judge({ kind: 'set', left: field('area') }, { area: 0 })).toBe(true);
    expect(judge({ kind: 'equals', left: field('paid'), right: value(false) }, { paid: false })).toBe(true);
  });
});

describe('comparing amounts', () => {
  const more: Criterion = { kind: 'more', left: field('value'), right: field('cost') };

  it('of one currency needs no rate', () => {
    expect(judge(more, { value: pounds(101), cost: pounds(100) })).toBe(true);
    expect(judge(more, { value: pounds(100), cost: pounds(100) })).toBe(false);
  });

  it('of two uses the rate, the minor units of each minded (ISO 4217)', () => {
    const yen = { minor: 190, currency: 'JPY' };
    const rateOf = (from: string, to: string) => (from === 'GBP' && to === 'JPY' ? rate('190') : undefined);
    expect(judge(more, { value: pounds(101), cost: yen }, { rateOf })).toBe(true);
    expect(judge(more, { value: pounds(99), cost: yen }, { rateOf })).toBe(false);
    expect(judge(more, { value: pounds(101), cost: yen })).toBeNull();
  });
});

describe('comparing dates', () => {
  it.each<[Comparison, Kleene[]]>([
    ['less', [true, false, false]],
    ['at_most', [true, true, false]],
    ['equals', [false, true, false]],
    ['at_least', [false, true, true]],
    ['more', [false, false, true]],
    ['differs', [true, false, true]],
  ])('%s than 30 days from today', (kind, expected) => {
    const criterion: Criterion = { kind, left: field('survey'), right: today(30) };
    expect([29, 30, 31].map((plus) => judge(criterion, { survey: day(plus) }))).toEqual(expected);
  });

  it('within the next days takes today and the last of them', () => {
    const criterion: Criterion = { kind: 'between', left: field('survey'), low: today(0), high: today(60) };
    expect([-1, 0, 60, 61].map((plus) => judge(criterion, { survey: day(plus) }))).toEqual([false, true, true, false]);
    expect(say(criterion)).toBe('Survey date is within the next 60 days');
  });

  it('days in the stage and days since the last activity are always known', () => {
    const inStage: Criterion = { kind: 'more', left: { of: 'journey', fact: 'days_in_stage' }, right: value(9) };
    const idle: Criterion = { kind: 'less', left: { of: 'journey', fact: 'days_since_activity' }, right: value(4) };
    expect([judge(inStage, {}), judge(idle, {})]).toEqual([true, true]);
    expect(judge(inStage, {}, { enteredDay: TODAY - 9 })).toBe(false);
    expect(judge(idle, {}, { lastActivityDay: null, enteredDay: TODAY - 4 })).toBe(false);
  });
});

describe('choices', () => {
  const group = (values: readonly string[], kind: 'includes_any' | 'includes_all' | 'includes_none') =>
    judge({ kind, left: field('group'), values: ['grower', 'signatory'] }, { group: values });

  it('one of a list, or none of it', () => {
    const oneOf: Criterion = { kind: 'one_of', left: field('crop'), values: ['herbs'] };
    const noneOf: Criterion = { kind: 'none_of', left: field('crop'), values: ['herbs'] };
    expect(['herbs', 'tomatoes', null].map((crop) => judge(oneOf, { crop }))).toEqual([true, false, null]);
    expect(['herbs', 'tomatoes', null].map((crop) => judge(noneOf, { crop }))).toEqual([false, true, null]);
  });

  it('several choices include any, all or none of a list', () => {
    expect(group(['grower'], 'includes_any')).toBe(true);
    expect(group(['grower'], 'includes_all')).toBe(false);
    expect(group(['grower', 'signatory'], 'includes_all')).toBe(true);
    expect(group(['other'], 'includes_none')).toBe(true);
    expect(group(['other', 'grower'], 'includes_none')).toBe(false);
    expect(group([], 'includes_none')).toBeNull();
  });
});

describe('texts', () => {
  const notes = (condition: Pick<Extract<Condition, { text: string }>, 'kind' | 'text'>, text: FactValue) =>
    judge({ ...condition, left: field('notes') }, { notes: text });

  it('contain and start with, whatever the case', () => {
    expect(notes({ kind: 'contains', text: 'GATE' }, 'At the north gate')).toBe(true);
    expect(notes({ kind: 'contains', text: 'south' }, 'At the north gate')).toBe(false);
    expect(notes({ kind: 'starts_with', text: 'at the' }, 'At the north gate')).toBe(true);
    expect(notes({ kind: 'starts_with', text: 'north' }, 'At the north gate')).toBe(false);
    expect(notes({ kind: 'contains', text: 'gate' }, null)).toBeNull();
  });

  it('are ordered by code point: Z before é (S3)', () => {
    const less: Criterion = { kind: 'less', left: field('notes'), right: value('é') };
    expect(judge(less, { notes: 'Z' })).toBe(true);
  });
});

describe('groups', () => {
  const isTrue: Criterion = { kind: 'set', left: field('area') };
  const isFalse: Criterion = { kind: 'unset', left: field('area') };
  const unknown: Criterion = { kind: 'more', left: field('value'), right: value(pounds(1)) };
  const facts = { area: 1 };

  it('all of nothing holds, any of nothing does not', () => {
    expect(judge({ kind: 'all', of: [] }, facts)).toBe(true);
    expect(judge({ kind: 'any', of: [] }, facts)).toBe(false);
  });

  it('what is unknown stays so unless the rest decides', () => {
    expect(judge({ kind: 'all', of: [isTrue, unknown] }, facts)).toBeNull();
    expect(judge({ kind: 'all', of: [unknown, isFalse] }, facts)).toBe(false);
    expect(judge({ kind: 'any', of: [unknown, isTrue] }, facts)).toBe(true);
    expect(judge({ kind: 'any', of: [isFalse, unknown] }, facts)).toBeNull();
    expect(judge({ kind: 'not', of: unknown }, facts)).toBeNull();
  });

  it('are told in brackets where they stand in each other', () => {
    const crop: Criterion = { kind: 'one_of', left: field('crop'), values: ['herbs', 'tomatoes'] };
    expect(say({ kind: 'any', of: [isTrue, { kind: 'all', of: [crop, { kind: 'not', of: isFalse }] }] })).toBe(
      'Glazed area is filled or (Crop is one of Herbs, Tomatoes and (not: Glazed area is empty))',
    );
  });
});

describe('a criterion as a sentence', () => {
  it.each<[Criterion, string]>([
    [{ kind: 'at_least', left: field('area'), right: value(1200.5) }, 'Glazed area is at least 1,200.5 m²'],
    [{ kind: 'more', left: field('value'), right: value(pounds(1_250_00)) }, 'Value is more than £1,250'],
    [{ kind: 'less', left: field('survey'), right: today(0) }, 'Survey date is before today'],
    [{ kind: 'at_least', left: field('survey'), right: today(-1) }, 'Survey date is on or after 1 day ago'],
    [{ kind: 'equals', left: field('survey'), right: value('2026-12-18') }, 'Survey date is 18 Dec 2026'],
    [{ kind: 'equals', left: field('paid'), right: value(true) }, 'Deposit paid is Yes'],
    [{ kind: 'less', left: field('cost'), right: field('value') }, 'Build cost is less than Value'],
    [{ kind: 'differs', left: field('crop'), right: value('herbs') }, 'Crop is not Herbs'],
    [{ kind: 'contains', left: field('notes'), text: 'gate' }, 'Notes contains “gate”'],
    [{ kind: 'includes_all', left: field('group'), values: ['grower'] }, 'Decision group includes all of Grower'],
    [{ kind: 'set', left: field('gone') }, 'A field that is gone is filled'],
    [{ kind: 'at_least', left: field('area'), right: value(null) }, 'Glazed area is at least …'],
    [
      { kind: 'between', left: field('survey'), low: today(-30), high: today(0) },
      'Survey date is within the last 30 days',
    ],
    [
      { kind: 'at_most', left: { of: 'journey', fact: 'days_since_activity' }, right: value(7) },
      'Days since the last activity is at most 7',
    ],
  ])('%#: %j', (criterion, expected) => {
    expect(say(criterion).replace(/\u00a0/g, ' ')).toBe(expected);
  });

  it('names people by what they are called, and by their id where nobody knows', () => {
    const owner: Criterion = { kind: 'one_of', left: field('owner'), values: ['p1', 'p2'] };
    expect(sentence(owner, CATALOGUE, (id) => (id === 'p1' ? 'Priya Nandan' : undefined))).toBe(
      'Owner is one of Priya Nandan, p2',
    );
  });
});
