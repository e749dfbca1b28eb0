import type { Deal } from '../deals/deal.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { Values } from '../facts/value.ts';
import { stageOf } from '../processes/document.ts';
import { isOpen } from '../requirements/item.ts';
import { failed, ok, type Result } from '../result.ts';
import { andThen } from './andThen.ts';
import { type EditDealProblem, editDeal } from './edit.ts';
import { moveDeal, previewMove } from './move.ts';
import { renameDeal } from './rename.ts';

/** What another program's book says of a deal that is known; what it does not say is null or left out. */
export interface DealUpdate {
  readonly name: string | null;
  readonly stage: string | null;
  readonly values: Values;
  /** Why the deal goes back, where it does. */
  readonly reason: string;
}

/** Why the deal was not moved to the stage that the update names. */
export type NotMoved =
  | { readonly code: 'no_such_stage'; readonly stage: string }
  | { readonly code: 'held'; readonly stage: string; readonly open: number };

/**
 * The deal with what the update says written to it: its fields, its name, and its stage where the gate lets it pass. A
 * move that would be held is told and not tried, so that it leaves no refusal behind. Errors: as of an edit.
 */
export function updateDeal(
  deal: Deal,
  setting: Setting,
  update: DealUpdate,
  moment: Moment,
): Result<{ readonly change: Change; readonly notMoved: NotMoved | null }, readonly EditDealProblem[]> {
  const edits = Object.entries(update.values).map(([field, value]) => ({
    field,
    value,
    saw: deal.values[field] ?? null,
  }));
  const edited = editDeal(deal, setting, edits, moment);
  if (!edited.ok) return edited;
  const named = andThen(edited.value, (after) => renameDeal(after, setting, update.name ?? after.name, moment));
  if (!named.ok) return failed([{ code: 'closed' }]);
  return ok(movedTo(named.value, setting, update, moment));
}

function movedTo(
  change: Change,
  setting: Setting,
  { stage, reason }: DealUpdate,
  moment: Moment,
): { readonly change: Change; readonly notMoved: NotMoved | null } {
  const { deal } = change;
  if (stage === null || stage === presentVisit(deal).stage) return { change, notMoved: null };
  if (!stageOf(setting.document, stage)) return { change, notMoved: { code: 'no_such_stage', stage } };
  const target = { to: 'stage', stage } as const;
  const gate = previewMove(deal, setting, target, moment);
  if (!gate.ok) return { change, notMoved: { code: 'no_such_stage', stage } };
  const holding = gate.value.verdict.items.filter(({ item, state }) => item.level === 'hold' && isOpen(state));
  if (holding.length > 0) return { change, notMoved: { code: 'held', stage, open: holding.length } };
  const request = { target, mode: 'ask', text: reason, reason: null, followUp: null } as const;
  const moved = andThen(change, (after) => {
    const answer = moveDeal(after, setting, request, moment);
    return answer.ok ? ok(answer.value.change) : answer;
  });
  return moved.ok ? { change: moved.value, notMoved: null } : { change, notMoved: { code: 'no_such_stage', stage } };
}
