import type { StageId } from '../../ids.ts';
import type { ProcessDocument } from '../../processes/document.ts';
import type { Instant } from '../../time/day.ts';
import type { Actor } from '../actor.ts';
import type { FactPart } from './part.ts';
import type { VisitsCarried } from './visits.ts';

export interface Tick {
  readonly item: string;
  readonly visitSeq: number;
  readonly at: Instant;
  readonly by: Actor;
  /** When it was unticked; null while it stands. */
  readonly untickedAt: Instant | null;
}

export interface TicksCarried {
  readonly ticks: readonly Tick[];
}

/** What was ticked on checklists, and which of it counts. */
export const ticksPart: FactPart<
  TicksCarried,
  { readonly ticked: ReadonlySet<string> },
  { readonly ticked: readonly string[] },
  TicksCarried & VisitsCarried
> = {
  begins: { ticks: [] },
  readsOf: ['visits'],
  facts: (deal, { document }) => ({ ticked: tickedItems(deal, document) }),
  keep: (deal, { document }) => ({ ticked: [...tickedItems(deal, document)].sort() }),
  recall: ({ ticked }) => ({ ticked: new Set(ticked) }),
};

/** Ids of the checklist items that count as ticked; one marked "again" counts only if ticked since the stage's latest stay began (S7). */
export function tickedItems(deal: TicksCarried & VisitsCarried, document: ProcessDocument): ReadonlySet<string> {
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

const latestVisitSeq = ({ visits }: VisitsCarried, stage: StageId | undefined): number =>
  visits.findLast((visit) => visit.stage === stage && visit.takenBack === 'no')?.seq ?? 0;
