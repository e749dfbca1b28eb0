import type { Deal } from '../deals/deal.ts';
import { presentVisit } from '../deals/parts/visits.ts';
import type { Change } from '../deals/record.ts';
import type { Moment, Setting } from '../deals/setting.ts';
import type { Values } from '../facts/value.ts';
import type { StageId } from '../ids.ts';
import { stageOf } from '../processes/document.ts';
import { isOpen } from '../requirements/item.ts';
import { failed, ok, type Result } from '../result.ts';
import { andThen } from './andThen.ts';
import { momentFor, type Stepped, settle } from './change.ts';
import { type EditDealProblem, editStep } from './edit.ts';
import { moveStep } from './move.ts';
import { renameStep } from './rename.ts';

/** What another program's book says of a deal that is known; what it does not say is null or left out. */
export interface DealUpdate {
  readonly name: string | null;
  readonly stage: StageId | null;
  readonly values: Values;
  /** Why the deal goes back, where it does. */
  readonly reason: string;
}

/** Why the deal was not moved to the stage that the update names. */
export type NotMoved =
  | { readonly code: 'no_such_stage'; readonly stage: StageId }
  | { readonly code: 'held'; readonly stage: StageId; readonly open: number };

/**
 * The deal with what the update says written to it: its fields, its name, and its stage where the gate lets it pass. A
 * move that would be held is told and not tried, so that it leaves no refusal behind. Errors: as of an edit.
 */
export function updateDeal(
  deal: Deal,
  setting: Setting,
  update: DealUpdate,
  asked: Moment,
): Result<{ readonly change: Change; readonly notMoved: NotMoved | null }, readonly EditDealProblem[]> {
  const edits = Object.entries(update.values).map(([field, value]) => ({
    field,
    value,
    saw: deal.values[field] ?? null,
  }));
  const moment = momentFor(deal, asked);
  const written = andThen(editStep(setting, edits), renameStep(update.name ?? deal.name))(deal, moment);
  if (!written.ok) return failed('code' in written.error ? [written.error] : written.error);
  const { notMoved, ...stepped } = movedTo(written.value, setting, update, moment);
  return ok({ change: settle(deal, stepped, setting, moment), notMoved });
}

interface SteppedOn extends Stepped {
  readonly notMoved: NotMoved | null;
}

function movedTo(written: Stepped, setting: Setting, { stage, reason }: DealUpdate, moment: Moment): SteppedOn {
  const { deal, records } = written;
  if (stage === null || stage === presentVisit(deal).stage) return { ...written, notMoved: null };
  const unknown: SteppedOn = { ...written, notMoved: { code: 'no_such_stage', stage } };
  if (!stageOf(setting.document, stage)) return unknown;
  const target = { to: 'stage', stage } as const;
  const request = { target, mode: 'ask', text: reason, reason: null, followUp: null, tasks: 'keep' } as const;
  const moved = moveStep(setting, request)(deal, moment);
  if (!moved.ok) return unknown;
  const { result, verdict } = moved.value;
  const holding = verdict.items.filter(({ item, state }) => item.level === 'hold' && isOpen(state));
  if (result === 'held') return { ...written, notMoved: { code: 'held', stage, open: holding.length } };
  return { deal: moved.value.deal, records: [...records, ...moved.value.records], notMoved: null };
}
