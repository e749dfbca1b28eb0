import { fieldsReadBy } from '../criteria/criterion.ts';
import { type Explanation, leavesOf } from '../criteria/evaluate.ts';
import { distinctPairs, type Lacking, lackingBehind, sourceFields } from '../facts/calculate.ts';
import type { Catalogue } from '../facts/field.ts';
import type { GateFacts, Remedy } from './item.ts';

export const NOTHING_LACKING: Lacking = { fields: [], rates: [] };

/** What has to be filled, and which rates set, before the fields have a value. */
export const lackingIn = (
  fields: readonly string[],
  { values, currencyOf, rateOf }: GateFacts,
  catalogue: Catalogue,
): Lacking => lackingBehind(fields, values, catalogue, (holder) => ({ currency: currencyOf[holder], rateOf }));

/** What has to be filled, and which rates set, before the criterion is known. */
export function lackingFor(explanation: Explanation, facts: GateFacts, catalogue: Catalogue): Lacking {
  const lacking = lackingIn(fieldsReadBy(explanation.criterion), facts, catalogue);
  const compared = leavesOf(explanation).flatMap(({ missingRates }) => missingRates);
  return { fields: lacking.fields, rates: distinctPairs([...lacking.rates, ...compared]) };
}

/** What is lacking comes first; where nothing is, what was read has to become other than it is. */
export function provide({ fields, rates }: Lacking, read: readonly string[], catalogue: Catalogue): Remedy {
  if (fields.length > 0) return { kind: 'fill', fields };
  if (rates.length > 0) return { kind: 'set_rate', rates };
  const sources = [...new Set(read.flatMap((id) => sourceFields(id, catalogue)))];
  return sources.length > 0 ? { kind: 'fill', fields: sources } : { kind: 'decide' };
}
