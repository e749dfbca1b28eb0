import type { FieldHolder } from '../../facts/field.ts';
import { isMoney, type Values } from '../../facts/value.ts';
import { currenciesAsked } from '../../gate/item.ts';
import type { CurrencyPair, Rate, RateOf } from '../../money/money.ts';
import type { Setting } from '../setting.ts';
import type { FactPart } from './part.ts';

export interface ValuesCarried {
  /** ISO 4217; chosen when the deal is begun, and that of its value once there is one (S33). */
  readonly currency: string;
  /** The deal's own values, built-in fields among them. */
  readonly values: Values;
  /** The customer's and the contact's values, which criteria may read. */
  readonly partyValues: Values;
  readonly closeDateMoves: number;
}

/** A rate as it was used. */
export interface UsedRate extends CurrencyPair, Rate {}

interface ValuesKept extends ValuesCarried {
  /** The exchange rates of that day, between the currencies that matter to the deal (S33). */
  readonly rates: readonly UsedRate[];
}

interface ValuesRead {
  readonly closeDateMoves: number;
  readonly values: Values;
  readonly rateOf: RateOf;
  readonly currencyOf: Readonly<Record<FieldHolder, string>>;
}

/* Values are assigned, not spread behind each other: that would give the facts of each deal a shape of their own. */

/** Fields, with what their amounts are worth. */
export const valuesPart: FactPart<ValuesCarried, ValuesRead, ValuesKept> = {
  facts: (deal, setting) => ({
    values: Object.assign({}, deal.values, deal.partyValues),
    closeDateMoves: deal.closeDateMoves,
    rateOf: setting.rateOf,
    currencyOf: currenciesOf(deal.currency, setting.reportingCurrency),
  }),
  keep: (deal, setting) => ({
    values: deal.values,
    partyValues: deal.partyValues,
    currency: deal.currency,
    rates: ratesUsed(deal, setting),
    closeDateMoves: deal.closeDateMoves,
  }),
  recall: ({ values, partyValues, currency, rates, closeDateMoves }, { reportingCurrency }) => ({
    closeDateMoves,
    values: Object.assign({}, values, partyValues),
    rateOf: (from, to) => rates.find((rate) => rate.from === from && rate.to === to),
    currencyOf: currenciesOf(currency, reportingCurrency),
  }),
};

/** In which currency a formula of each holder counts amounts: a deal's in its own, others in the organisation's. */
const currenciesOf = (own: string, reporting: string): Readonly<Record<FieldHolder, string>> => ({
  deal: own,
  customer: reporting,
  contact: reporting,
});

/**
 * Every rate between the currencies of the deal's amounts, of its process and gates and of the organisation: what a gate,
 * this one or a later one, may need to compare them (S33).
 */
function ratesUsed(deal: ValuesCarried, setting: Setting): readonly UsedRate[] {
  const inDeal = [deal.currency, ...amountsIn(deal.values), ...amountsIn(deal.partyValues)];
  const around = [setting.document.currency, setting.reportingCurrency, ...currenciesAsked(setting.document)];
  const all = [...new Set([...inDeal, ...around])].sort();
  return all.flatMap((from) =>
    all.flatMap((to) => {
      const rate = from === to ? undefined : setting.rateOf(from, to);
      return rate ? [{ from, to, ...rate }] : [];
    }),
  );
}

const amountsIn = (values: Values): readonly string[] =>
  Object.values(values).flatMap((value) => (isMoney(value) ? [value.currency] : []));

/** Text of a built-in or own field, or null. */
export function textValue(deal: Pick<ValuesCarried, 'values'>, field: string): string | null {
  const value = deal.values[field];
  return typeof value === 'string' ? value : null;
}
