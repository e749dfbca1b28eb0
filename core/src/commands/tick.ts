import type { Deal } from '../deals/deal.ts';
import { type Tick, tickedItems } from '../deals/parts/ticks.ts';
import { textValue } from '../deals/parts/values.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { ChecklistItem } from '../requirements/checklist.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeBy, journal, revised, type Step } from './change.ts';

export type TickProblem =
  | { readonly code: 'closed' }
  | { readonly code: 'no_such_item'; readonly item: string }
  /** It is another's to tick. */
  | { readonly code: 'not_theirs'; readonly who: NonNullable<ChecklistItem['who']> }
  /** A document of this kind is attached first. */
  | { readonly code: 'no_evidence'; readonly document: string };

/** Somebody who ticks: a manager is also who administrates. */
export interface Ticker {
  readonly id: string;
  readonly rank: 'seller' | 'manager';
}

/** Ticks a checklist item, or takes the tick away, whoever may do so. Doing it again changes nothing. Errors: closed deal, unknown item. */
export const tickItem = (
  deal: Deal,
  setting: Setting,
  itemId: string,
  state: 'ticked' | 'unticked',
  asked: Moment,
): Result<Change, TickProblem> => changeBy(deal, setting, asked, tickStep(setting, itemId, state));

/** The same by a person. Errors beside those: an item that is for others to tick, one whose evidence is not attached. */
export const tickItemBy = (
  ticker: Ticker,
  deal: Deal,
  setting: Setting,
  itemId: string,
  state: 'ticked' | 'unticked',
  asked: Moment,
): Result<Change, TickProblem> =>
  changeBy<TickProblem>(deal, setting, asked, (before, moment) => {
    const item = setting.document.stages.flatMap(({ checklist }) => checklist).find(({ id }) => id === itemId);
    if (item?.who && !isTheirs(item.who, before, ticker, moment)) return failed({ code: 'not_theirs', who: item.who });
    if (item?.document && state === 'ticked' && !isAttached(before, item.document))
      return failed({ code: 'no_evidence', document: item.document });
    return tickStep(setting, itemId, state)(before, moment);
  });

const isAttached = ({ documents }: Deal, kind: string): boolean =>
  documents.some((document) => document.kind === kind && document.removed === null);

/** What is the owner's is also whose who stands in for them, and their manager's. */
const isTheirs = (
  who: NonNullable<ChecklistItem['who']>,
  deal: Deal,
  { id, rank }: Ticker,
  { insteadOf }: Moment,
): boolean => {
  const owner = textValue(deal, 'owner');
  return rank === 'manager' || (who === 'owner' && owner !== null && (owner === id || owner === insteadOf));
};

/** The same as a step, by whoever: what a step's result ticks is ticked. */
export const tickStep =
  ({ document }: Setting, itemId: string, state: 'ticked' | 'unticked'): Step<TickProblem> =>
  (deal, moment) => {
    if (deal.status.state !== 'open') return failed({ code: 'closed' });
    const stage = document.stages.find(({ checklist }) => checklist.some(({ id }) => id === itemId));
    const item = stage?.checklist.find(({ id }) => id === itemId);
    if (!stage || !item) return failed({ code: 'no_such_item', item: itemId });
    const isTicked = tickedItems(deal, document).has(itemId);
    if (isTicked === (state === 'ticked')) return ok({ deal, records: [] });
    const ticks = state === 'ticked' ? add(deal, itemId, moment) : end(deal.ticks, itemId, moment);
    const after = revised({ ...deal, ticks });
    const body = { kind: state, item: itemId, stage: stage.id, text: item.text } as const;
    return ok({ deal: after, records: [journal(after, moment, body)] });
  };

function add(deal: Deal, item: string, moment: Moment): readonly Tick[] {
  const tick: Tick = { item, visitSeq: presentVisit(deal).seq, at: moment.happenedAt, by: moment.by, untickedAt: null };
  return [...end(deal.ticks, item, moment), tick];
}

const end = (ticks: readonly Tick[], item: string, moment: Moment): readonly Tick[] =>
  ticks.map((tick) =>
    tick.item === item && tick.untickedAt === null ? { ...tick, untickedAt: moment.happenedAt } : tick,
  );
