import { describe, expect, it } from 'vitest';
import { dealFacts, snapshotOf } from '../deals/dealFacts.ts';
import type { Setting } from '../deals/setting.ts';
import { catalogueOf, type Field } from '../facts/field.ts';
import { itemsOf } from '../gate/item.ts';
import type { DealId, ProcessId, StageId, VersionId } from '../ids.ts';
import type { RateOf } from '../money/money.ts';
import { describeActual } from '../requirements/describeItem.ts';
import { judgeItem } from '../requirements/judgeItem.ts';
import type { Requirement } from '../requirements/kinds.ts';
import { at, CATALOGUE, dealIn, documentOf, FIELDS, must, NOW, rate, settingOf, stage } from '../testing/builders.ts';
import { adoptVersion } from './adoptVersion.ts';
import { createDeal } from './create.ts';
import { editDeal } from './edit.ts';
import { changeFollowUp } from './followUp.ts';
import { rejudgeDeal } from './rejudgeDeal.ts';

const pounds = (minor: number) => ({ minor, currency: 'GBP' });
const margin: Field = {
  id: 'margin',
  name: 'Margin',
  holder: 'deal',
  type: 'calculated',
  formula: { kind: 'subtract', left: { kind: 'field', field: 'value' }, right: { kind: 'field', field: 'cost' } },
};
const sizeOf: Field = {
  id: 'size',
  name: 'Size of customer',
  holder: 'customer',
  type: 'calculated',
  formula: { kind: 'field', field: 'turnover' },
};
const catalogue = catalogueOf([
  ...FIELDS,
  margin,
  { id: 'turnover', name: 'Turnover', holder: 'customer', type: 'money' },
  sizeOf,
]);
const rates =
  (table: Record<string, string>): RateOf =>
  (from, to) => {
    const value = table[`${from}${to}`];
    return value === undefined ? undefined : rate(value);
  };
const atLeast = (field: string, value: number | { minor: number; currency: string }): Requirement => ({
  id: `at least ${field}`,
  level: 'hold',
  binds: 'must_stay',
  kind: 'criterion',
  criterion: { kind: 'at_least', left: { of: 'field', field }, right: { of: 'value', value } },
});
const setting = (table: Record<string, string> = {}, enter: readonly Requirement[] = []): Setting => ({
  ...settingOf(documentOf([stage('a', { enter })]), { rateOf: rates(table) }),
  catalogue,
});
const judged = (requirement: Requirement, values: object, table: Record<string, string> = {}, partyValues = {}) => {
  const surroundings = setting(table, [requirement]);
  const deal = { ...dealIn(surroundings, values as never), partyValues };
  const item = itemsOf(surroundings.document).get(requirement.id);
  if (!item) throw new Error('No item');
  return judgeItem(item, dealFacts(deal, surroundings, NOW), catalogue);
};

describe('a calculated number', () => {
  const yen = { minor: 10_000, currency: 'JPY' };

  it('counts amounts of several currencies in the deal’s own, each converted first (S33)', () => {
    expect(dealIn(setting({ JPYGBP: '0.005' }), { value: pounds(80_00), cost: yen }).values.margin).toBe(30);
    expect(dealIn(setting(), { value: pounds(80_00), cost: yen }).values.margin).toBeNull();
  });

  it('of a deal leaves those of its customer alone', () => {
    const deal = dealIn(setting(), { value: pounds(80_00), cost: pounds(1) });
    expect('size' in deal.values).toBe(false);
    expect(
      dealFacts({ ...deal, values: { ...deal.values, size: null }, partyValues: { size: 7 } }, setting(), NOW).values
        .size,
    ).toBe(7);
  });

  it('that a publish adds has its value at once', () => {
    const before = { ...setting(), catalogue: CATALOGUE, version: 'before' as VersionId };
    const deal = dealIn(before, { value: pounds(80_00), cost: pounds(50_00) });
    expect(deal.values.margin).toBeUndefined();
    const plan = { from: before, to: setting(), transfers: {}, graceUntil: NOW };
    expect(must(adoptVersion(deal, plan, at(NOW + 1))).deal.values.margin).toBe(30);
  });

  it('is worked out anew where a rate is set, as a change that a gate can read', () => {
    const deal = dealIn(setting(), { value: pounds(80_00), cost: yen });
    const after = rejudgeDeal(deal, setting({ JPYGBP: '0.005' }), at(NOW + 1)).deal;
    expect([after.values.margin, after.revision]).toEqual([30, deal.revision + 1]);
    expect(rejudgeDeal(after, setting({ JPYGBP: '0.005' }), at(NOW + 2)).deal.revision).toBe(after.revision);
  });
});

describe('what is missing', () => {
  it('names the written fields behind a calculated number, those that are empty', () => {
    expect(judged(atLeast('margin', 10), { value: pounds(100) })).toMatchObject({
      state: 'missing',
      remedy: { kind: 'fill', fields: ['cost'] },
    });
    const maybe = {
      ...atLeast('notes', 1),
      appliesWhen: (atLeast('margin', 10) as unknown as { criterion: never }).criterion,
    };
    expect(judged(maybe, {}).mayApply).toEqual(['value', 'cost']);
  });

  it('names the rate without which two amounts cannot be compared (S33)', () => {
    const verdict = judged(atLeast('value', { minor: 100, currency: 'EUR' }), { value: pounds(100) });
    expect(verdict).toMatchObject({
      state: 'missing',
      remedy: { kind: 'set_rate', rates: [{ from: 'GBP', to: 'EUR' }] },
    });
    expect(describeActual(verdict, catalogue, () => undefined)).toBe('£1; no exchange rate from GBP to EUR');
  });

  it('names the rate that a calculated number, a customer’s too, waits for', () => {
    expect(judged(atLeast('margin', 10), { value: pounds(1), cost: { minor: 1, currency: 'JPY' } }).remedy).toEqual({
      kind: 'set_rate',
      rates: [{ from: 'JPY', to: 'GBP' }],
    });
    const foreign = { turnover: { minor: 5, currency: 'CHF' }, size: null };
    expect(judged(atLeast('size', 10), {}, {}, foreign).remedy).toEqual({
      kind: 'set_rate',
      rates: [{ from: 'CHF', to: 'GBP' }],
    });
  });

  it('is a rate before it is known whether a requirement applies at all', () => {
    const dear = (atLeast('value', { minor: 100, currency: 'EUR' }) as unknown as { criterion: never }).criterion;
    const verdict = judged({ ...atLeast('area', 10), appliesWhen: dear }, { value: pounds(100) });
    expect([verdict.mayApply, verdict.mayApplyRates]).toEqual([[], [{ from: 'GBP', to: 'EUR' }]]);
  });
});

it('a snapshot keeps the rates that its amounts, process and gates can need (S33)', () => {
  const around = setting({ JPYGBP: '0.005', EURGBP: '0.8', GBPEUR: '1.25', CHFGBP: '0.9' }, [
    atLeast('value', { minor: 1, currency: 'EUR' }),
  ]);
  const deal = dealIn(around, { cost: { minor: 5, currency: 'JPY' } });
  expect(snapshotOf(deal, around, NOW).rates).toEqual([
    { from: 'EUR', to: 'GBP', value: '0.8', turned: 'no' },
    { from: 'GBP', to: 'EUR', value: '1.25', turned: 'no' },
    { from: 'JPY', to: 'GBP', value: '0.005', turned: 'no' },
  ]);
});

describe('the currency of a deal (S33)', () => {
  const input = {
    id: 'd' as DealId,
    process: 'p' as ProcessId,
    externalId: null,
    name: 'D',
    stage: 'a' as StageId,
    values: {},
    partyValues: {},
  };

  it('is chosen as it begins, the process’s where it is not, and follows its value', () => {
    const begun = (more: object) => createDeal({ ...input, ...more }, setting(), at(NOW)).deal;
    expect(begun({}).currency).toBe('GBP');
    expect(begun({ currency: 'CHF' }).currency).toBe('CHF');
    expect(begun({ values: { value: { minor: 5, currency: 'EUR' } } }).currency).toBe('EUR');
    const edit = [{ field: 'value', saw: null, value: { minor: 5, currency: 'JPY' } }];
    expect(must(editDeal(begun({ currency: 'CHF' }), setting(), edit, at(NOW + 1))).deal.currency).toBe('JPY');
  });
});

describe('the follow-up day of a closed deal (S12)', () => {
  it('can be changed, and nothing of an open one', () => {
    const open = dealIn(setting());
    expect(changeFollowUp(open, setting(), { day: '2027-01-09', text: null }, at(NOW + 1))).toEqual({
      ok: false,
      error: { code: 'not_closed' },
    });
    const lost = {
      ...open,
      status: {
        state: 'lost',
        outcome: 'lost',
        at: NOW,
        day: '2026-11-24',
        reason: null,
        followUp: null,
        estimate: null,
      },
    } as const;
    const { deal, records } = must(changeFollowUp(lost, setting(), { day: '2027-01-09', text: null }, at(NOW + 1)));
    expect(deal.status).toMatchObject({ followUp: '2027-01-09' });
    expect(records).toMatchObject([
      { entry: { body: { kind: 'follow_up_changed', before: null, after: '2027-01-09' } } },
    ]);
    expect(must(changeFollowUp(deal, setting(), { day: '2027-01-09', text: null }, at(NOW + 2))).records).toEqual([]);
  });
});
