import type { Deal } from '../deals/deal.ts';
import type { Finding } from '../deals/finding.ts';
import type { Setting } from '../deals/setting.ts';
import { stageOf } from '../processes/document.ts';
import { addDays, type Instant, localDay, startOfDay } from '../time/day.ts';

/**
 * The deal's findings after something happened at an instant that may lie back: in the stay of that time it was not idle
 * from then on for as long as its stage allows. A stay that began later counts from its own beginning.
 */
export function withoutIdleness(deal: Deal, setting: Setting, happenedAt: Instant): readonly Finding[] {
  const visit = deal.visits.findLast(({ enteredAt, takenBack }) => takenBack === 'no' && enteredAt <= happenedAt);
  const allowed = stageOf(setting.document, visit?.stage ?? '')?.idleDays ?? null;
  if (!visit || allowed === null) return deal.findings;
  const idleAgain = startOfDay(addDays(localDay(happenedAt, setting.zone), allowed + 1), setting.zone);
  const end = Math.min(idleAgain, visit.left?.at ?? idleAgain);
  return deal.findings.flatMap((finding) => (finding.kind === 'idle' ? without(finding, happenedAt, end) : [finding]));
}

/** The parts of a finding that lie before `from` or from `to` on. */
function without(finding: Finding, from: Instant, to: Instant): readonly Finding[] {
  if (finding.closedAt <= from || finding.openedAt >= to) return [finding];
  return [
    ...(finding.openedAt < from ? [{ ...finding, closedAt: from }] : []),
    ...(finding.closedAt > to ? [{ ...finding, openedAt: to }] : []),
  ];
}
