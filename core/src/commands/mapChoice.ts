import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { mappedChoice } from '../facts/mappedChoice.ts';
import { changeSurely, journal, revised } from './change.ts';

/** One choice of a field in place of another. */
export interface ChoiceMapping {
  readonly field: string;
  readonly from: string;
  readonly to: string;
}

/**
 * The deal with another choice wherever it had this one, closed deals too: it is the same fact under another name, not a
 * change of the sale. The very same deal where it has not.
 */
export function mapChoiceOfDeal(
  deal: Deal,
  setting: Setting,
  { field, from, to }: ChoiceMapping,
  asked: Moment,
): Change {
  const before = deal.values[field] ?? null;
  const after = mappedChoice(before, from, to);
  if (after === before) return { deal, records: [] };
  return changeSurely(deal, setting, asked, (_deal, moment) => {
    const mapped = revised({ ...deal, values: { ...deal.values, [field]: after } });
    return {
      deal: mapped,
      records: [journal(mapped, moment, { kind: 'edited', changes: [{ field, before, after }] })],
    };
  });
}
