import { withCalculated } from '../facts/calculate.ts';
import { isMoney } from '../facts/value.ts';
import type { Exchange } from '../money/money.ts';
import type { ValuesCarried } from './parts/values.ts';
import type { Setting } from './setting.ts';

/**
 * The deal with its calculated numbers worked out from what it now holds, and in the currency of its value; the very same
 * deal where they are what they were.
 */
export function recalculated<Deal extends ValuesCarried>(deal: Deal, setting: Setting): Deal {
  const currency = isMoney(deal.values.value) ? deal.values.value.currency : deal.currency;
  const exchange: Exchange = { currency, rateOf: setting.rateOf };
  const values = withCalculated(deal.values, setting.catalogue, 'deal', exchange);
  return currency === deal.currency && values === deal.values ? deal : { ...deal, currency, values };
}
