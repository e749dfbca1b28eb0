import { withCalculated } from '../facts/calculate.ts';
import type { FieldHolder } from '../facts/field.ts';
import { isMoney, type Values } from '../facts/value.ts';
import { currenciesAsked } from '../gate/item.ts';
import type { CurrencyPair, Exchange, Rate } from '../money/money.ts';
import type { Deal } from './deal.ts';
import type { Setting } from './setting.ts';

/** In which currency a formula of each holder counts amounts: a deal's in its own, others in the organisation's. */
export const currenciesOf = (deal: Deal, setting: Setting): Readonly<Record<FieldHolder, string>> => ({
  deal: deal.currency,
  customer: setting.reportingCurrency,
  contact: setting.reportingCurrency,
});

/** The deal with its calculated numbers worked out from what it now holds, and in the currency of its value. */
export function recalculated(deal: Deal, setting: Setting): Deal {
  const currency = isMoney(deal.values.value) ? deal.values.value.currency : deal.currency;
  const exchange: Exchange = { currency, rateOf: setting.rateOf };
  return { ...deal, currency, values: withCalculated(deal.values, setting.catalogue, 'deal', exchange) };
}

/** A rate as it was used. */
export interface UsedRate extends CurrencyPair, Rate {}

/**
 * Every rate between the currencies of the deal's amounts, of its process and gates and of the organisation: what a gate,
 * this one or a later one, may need to compare them (S33).
 */
export function ratesUsed(deal: Deal, setting: Setting): readonly UsedRate[] {
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
