import { canonicalText } from '../canonicalText.ts';
import type { Deal } from '../deals/deal.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import { type Waiver, type WaiverEnd, waiversInForce } from '../deals/parts/waivers.ts';
import type { Setting } from '../deals/setting.ts';
import { itemsOf } from '../gate/item.ts';
import type { ProcessDocument } from '../processes/document.ts';
import { substanceOf } from '../requirements/substance.ts';
import { addDays, startOfDay } from '../time/day.ts';
import type { When } from './thread.ts';

/** What has overtaken a request: its deal has closed or moved on, or its requirement was published away. */
export function overtakenBy(deal: Deal, { document }: Setting, waiver: Waiver): 'move' | 'closing' | 'publish' | null {
  if (deal.status.state !== 'open') return 'closing';
  if (presentVisit(deal).seq !== waiver.visitSeq) return 'move';
  return substanceNow(document, waiver.requirement) === waiver.substance ? null : 'publish';
}

/** The deal as it goes back: what was waived is waived no longer (S25). */
export const endWaiversOnReturn = (deal: Deal, moveSeq: number, { at, by }: When): Deal =>
  endWaivers(deal, waiversInForce(deal, at), { how: 'returned', at, by, word: null, moveSeq });

/** The deal with those waivers in force again that a move had ended, as if it had not been made. */
export const restoreWaivers = (deal: Deal, moveSeq: number, { zone }: Setting): Deal =>
  withWaivers(deal, (one) => {
    const { covers, decision, end } = one;
    if (!covers || !decision?.until || end?.moveSeq !== moveSeq) return one;
    return { ...one, end: null, covers: { from: covers.from, to: startOfDay(addDays(decision.until, 1), zone) } };
  });

/**
 * The deal with its waivers as its version and stay have them: requests that are overtaken lapse, and what is in force ends where
 * its requirement has changed or the deal has closed. The very same deal where nothing of that is so.
 */
export function conformWaivers(deal: Deal, { at, by }: When, setting: Setting): Deal {
  if (deal.waivers.length === 0) return deal;
  const lapsed = { how: 'lapsed', at, by, word: null, until: null } as const;
  const settled = withWaivers(deal, (one) =>
    one.decision === null && overtakenBy(deal, setting, one) ? { ...one, decision: lapsed } : one,
  );
  const isClosed = settled.status.state !== 'open';
  const over = waiversInForce(settled, at).filter(
    ({ requirement, substance }) => isClosed || substanceNow(setting.document, requirement) !== substance,
  );
  const how = isClosed ? 'closed' : 'changed';
  // A closing that is taken back restores them.
  const moveSeq = isClosed ? deal.moveCount : null;
  return endWaivers(settled, over, { how, at, by, word: null, moveSeq });
}

/** The deal with waivers at an end before their day. */
export function endWaivers(deal: Deal, ending: readonly Waiver[], end: WaiverEnd): Deal {
  const seqs = new Set(ending.map(({ seq }) => seq));
  return withWaivers(deal, (one) =>
    one.covers && seqs.has(one.seq) ? { ...one, end, covers: { from: one.covers.from, to: end.at } } : one,
  );
}

/** The deal with each waiver as it is made; the very same deal where none is another. */
export function withWaivers(deal: Deal, change: (waiver: Waiver) => Waiver): Deal {
  const waivers = deal.waivers.map(change);
  return waivers.every((waiver, place) => waiver === deal.waivers[place]) ? deal : { ...deal, waivers };
}

/** What a requirement asks in a version, words aside; the process's own rules are named by their ids. Null where it is gone. */
export function substanceNow(document: ProcessDocument, requirement: string): string | null {
  if (requirement.startsWith('rule:')) return requirement;
  const item = itemsOf(document).get(requirement);
  return item ? canonicalText([item.stage, item.at, substanceOf(item.kind, item)]) : null;
}
