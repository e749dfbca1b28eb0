import type { ProcessDocument } from '../processes/document.ts';
import type { GateFacts } from '../requirements/item.ts';
import { dayNumber, type Instant, localDay } from '../time/day.ts';
import { type Deal, presentVisit } from './deal.ts';
import { currenciesOf, ratesUsed } from './exchange.ts';
import type { Snapshot } from './record.ts';
import type { Setting } from './setting.ts';

/** Everything a gate can read about the deal at an instant. */
export function dealFacts(deal: Deal, setting: Setting, at: Instant): GateFacts {
  return {
    values: { ...deal.values, ...deal.partyValues },
    enteredDay: dayNumber(presentVisit(deal).enteredDay),
    lastActivityDay: deal.lastActivityAt === null ? null : dayNumber(localDay(deal.lastActivityAt, setting.zone)),
    at,
    zone: setting.zone,
    today: dayNumber(localDay(at, setting.zone)),
    rateOf: setting.rateOf,
    currencyOf: currenciesOf(deal, setting),
    ticked: tickedItems(deal, setting.document),
    waived: new Set(deal.waivers.filter(({ from, to }) => from <= at && at < to).map(({ requirement }) => requirement)),
  };
}

/** Ids of the checklist items that count as ticked; one marked "again" counts only if ticked since the stage's latest stay began (S7). */
export function tickedItems(deal: Deal, document: ProcessDocument): ReadonlySet<string> {
  const standing = deal.ticks.filter(({ untickedAt }) => untickedAt === null);
  const again = new Map(
    document.stages.flatMap((stage) =>
      stage.checklist.filter(({ afterReturn }) => afterReturn === 'again').map((item) => [item.id, stage.id]),
    ),
  );
  return new Set(
    standing
      .filter(({ item, visitSeq }) => !again.has(item) || visitSeq >= latestVisitSeq(deal, again.get(item)))
      .map(({ item }) => item),
  );
}

function latestVisitSeq(deal: Deal, stage: string | undefined): number {
  return deal.visits.findLast((visit) => visit.stage === stage && visit.takenBack === 'no')?.seq ?? 0;
}

/** The facts as a move keeps them. */
export function snapshotOf(deal: Deal, setting: Setting, at: Instant): Snapshot {
  return {
    values: deal.values,
    partyValues: deal.partyValues,
    currency: deal.currency,
    rates: ratesUsed(deal, setting),
    ticked: [...tickedItems(deal, setting.document)].sort(),
    activityCounts: deal.activityCounts,
    closeDateMoves: deal.closeDateMoves,
    enteredDay: presentVisit(deal).enteredDay,
    lastActivityDay: deal.lastActivityAt === null ? null : localDay(deal.lastActivityAt, setting.zone),
    today: localDay(at, setting.zone),
  };
}
