import {
  type Deal,
  type Lead,
  localDay,
  type MoveTarget,
  nextTarget,
  type ResultRequest,
  runsAtHand,
  type Setting,
  type StepResult,
  stageOf,
  targetText,
} from '@ladder/core';
import { chance, pick, type Random } from '../random.ts';
import { goodValue } from './goodValue.ts';

type Chosen = Pick<ResultRequest, 'run' | 'captures' | 'text'> & { readonly result: StepResult };

/**
 * With which result a step at hand is ended, and what is filled in it: one that makes the move, or one that stays in the stage
 * where there is none to make; most often the first of them. Null where the step has no such result.
 */
export function resultToTake(
  random: Random,
  deal: Deal,
  setting: Setting,
  run: number,
  target: MoveTarget | null,
  at: number,
): Chosen | null {
  const { document, zone } = setting;
  const atHand = runsAtHand(deal, document).find(({ seq }) => seq === run);
  const step = atHand && stageOf(document, atHand.stage)?.steps.find(({ id }) => id === atHand.step);
  if (!step) return null;
  const offered = step.results.filter(({ leads }) => leadsTo(leads, target, nextTarget(document, atHand.stage)));
  if (offered.length === 0) return null;
  const result = chance(random, 0.7) ? (offered[0] as StepResult) : pick(random, offered);
  const needed = result.captures === 'asked' ? step.captures.filter(({ need }) => need === 'must') : [];
  const captures = needed.map(({ field }) => {
    const saw = deal.values[field] ?? null;
    return { field, saw, value: saw ?? goodValue(random, field, deal, localDay(at, zone)) };
  });
  return { run, result, captures, text: 'As the step said.' };
}

/** Whether a result makes this move, or none where there is none to make. */
function leadsTo(leads: Lead, target: MoveTarget | null, next: MoveTarget): boolean {
  if (leads.to === 'move_on') return target !== null && targetText(target) === targetText(next);
  if (leads.to === 'stage') return target?.to === 'stage' && target.stage === leads.stage;
  if (leads.to === 'outcome') return target?.to === 'outcome' && target.outcome === leads.outcome;
  return target === null;
}

/** The reason that is given with a result: none where the result names one. */
export const askedReason = ({ leads }: StepResult, reason: string | null): string | null =>
  leads.to === 'outcome' && leads.reason !== null ? null : reason;
