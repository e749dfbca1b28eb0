import type { Deal } from '../deals/deal.ts';
import { recalculated } from '../deals/exchange.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { type Estimate, isClosed } from '../deals/status.ts';
import { checkValue, describeValueProblem, isMoney } from '../facts/value.ts';
import type { MoveTarget } from '../gate/route.ts';
import type { Money } from '../money/money.ts';
import { outcomeOf } from '../processes/document.ts';
import { failed, ok, type Result } from '../result.ts';
import { type Day, localDay } from '../time/day.ts';

/** How a deal was really won, in place of what was expected of it. */
export interface Final {
  readonly value: Money | null;
  /** The local day on which it was agreed. */
  readonly day: Day;
}

export type FinalProblem =
  | { readonly code: 'final_not_asked' }
  | { readonly code: 'bad_final'; readonly part: keyof Final; readonly detail: string };

/** A deal as the gate of its closing sees it. */
export interface Finished {
  readonly deal: Deal;
  /** Null where its closing knows of no final facts. */
  readonly final: FinalFacts | null;
}

/** What had been expected of a deal, and the day on which it was agreed. */
export interface FinalFacts {
  readonly estimate: Estimate;
  readonly day: Day;
}

/**
 * The deal with its final value in place of the estimated one, where the target wins a deal: as given, or else its value
 * as it is and the day of the closing. Its close date stays for the gate, which may ask for one that is yet to come, and
 * is the final day once it has passed. Errors: given for another move, a value or day that cannot be.
 */
export function withFinal(
  deal: Deal,
  setting: Setting,
  target: MoveTarget,
  given: Final | undefined,
  { happenedAt }: Pick<Moment, 'happenedAt'>,
): Result<Finished, FinalProblem> {
  if (!isWon(setting, target)) return given ? failed({ code: 'final_not_asked' }) : ok({ deal, final: null });
  // A deal of which neither was ever recorded has nothing to be told beside.
  if (!given && !('value' in deal.values || 'close_date' in deal.values)) return ok({ deal, final: null });
  const estimate = estimateOf(deal);
  const today = localDay(happenedAt, setting.zone);
  const problem = given ? finalProblem(deal, setting, given, today) : null;
  if (problem) return failed(problem);
  const final = given ?? { value: estimate.value, day: today };
  const values = { ...deal.values, value: final.value, close_date: estimate.day ?? final.day };
  return ok({ deal: recalculated({ ...deal, values }, setting), final: { estimate, day: final.day } });
}

/** Whether the target is an end in which a deal is won; that an enquiry qualified has no value and day of its own. */
export const isWon = ({ document }: Pick<Setting, 'document'>, target: MoveTarget): boolean =>
  target.to === 'outcome' && document.kind === 'deal' && outcomeOf(document, target.outcome)?.counts === 'won';

function estimateOf({ values: { value, close_date: day } }: Deal): Estimate {
  return { value: isMoney(value) ? value : null, day: typeof day === 'string' ? day : null };
}

/** The deal with what had been expected of it, once its closing is taken back. */
export function withoutFinal(deal: Deal, setting: Setting): Deal {
  const estimate = isClosed(deal.status) ? deal.status.estimate : null;
  if (!estimate) return deal;
  return recalculated(
    { ...deal, values: { ...deal.values, value: estimate.value, close_date: estimate.day } },
    setting,
  );
}

function finalProblem(deal: Deal, { catalogue }: Setting, { value, day }: Final, today: Day): FinalProblem | null {
  const bad = (part: keyof Final, detail: string) => ({ code: 'bad_final', part, detail }) as const;
  const field = catalogue.get('value');
  const problem = field && value ? checkValue(field, value) : null;
  if (problem) return bad('value', describeValueProblem(problem));
  const currency = estimateOf(deal).value?.currency ?? deal.currency;
  if (value && value.currency !== currency)
    return bad('value', `This deal is in ${currency}; give its final value in it.`);
  return day > today ? bad('day', 'A deal is won on the day on which it was agreed: today, or a day before.') : null;
}
