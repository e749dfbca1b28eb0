import type { Deal } from '../deals/deal.ts';
import { type Tick, tickedItems } from '../deals/parts/ticks.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import { failed, ok, type Result } from '../result.ts';
import { changeBy, journal, revised, type Step } from './change.ts';

export type TickProblem = { readonly code: 'closed' } | { readonly code: 'no_such_item'; readonly item: string };

/** Ticks a checklist item, or takes the tick away. Doing it again changes nothing. Errors: closed deal, unknown item. */
export const tickItem = (
  deal: Deal,
  setting: Setting,
  itemId: string,
  state: 'ticked' | 'unticked',
  asked: Moment,
): Result<Change, TickProblem> => changeBy(deal, setting, asked, tickStep(setting, itemId, state));

/** The same as a step. */
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
