import type { Deal } from '../deals/deal.ts';
import type { Change } from '../deals/record.ts';
import { ok, type Result } from '../result.ts';

/** One change of two: what the command makes of the deal as the first change left it, with the records of both. */
export function andThen<Problem>(
  { deal, records }: Change,
  command: (deal: Deal) => Result<Change, Problem>,
): Result<Change, Problem> {
  const next = command(deal);
  return next.ok ? ok({ deal: next.value.deal, records: [...records, ...next.value.records] }) : next;
}
