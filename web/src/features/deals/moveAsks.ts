import {
  type GuidedStep,
  isWon,
  leadOf,
  type MoveTarget,
  nextTarget,
  outcomeOf,
  routeTo,
  type Stage,
  type StageId,
  type StepResult,
} from '@ladder/core';
import type { DealDetail, StepAtHand } from './dealsApi.ts';
import { moveQuestions } from './moveQuestions.ts';

/** What has to be said for the move that a result makes: why it goes back, how it closes, or what any move is asked. */
export type MoveAsk =
  | { readonly asks: 'why' | 'questions'; readonly target: MoveTarget }
  | {
      readonly asks: 'closing';
      readonly target: MoveTarget & { readonly to: 'outcome' };
      /** The reason that the result names, if it is still offered. */
      readonly named: string;
    };

/** Null where nothing has to be said. */
export function moveAsks(
  deal: DealDetail,
  run: Pick<StepAtHand, 'owed'>,
  stage: Stage,
  step: GuidedStep,
  result: StepResult,
  today: string,
): MoveAsk | null {
  const lead = leadOf(stage.steps, step.id, result);
  const target = run.owed ? null : targetOf(deal, lead);
  const route = target && routeTo(deal.document, deal.stage, target);
  if (!target || !route?.ok) return null;
  const { tasks, next } = moveQuestions(deal, target, today);
  const others = tasks > 0 || next === 'yes' ? ({ asks: 'questions', target } as const) : null;
  if (target.to === 'stage') return route.value.kind === 'return' ? { asks: 'why', target } : others;
  const reasons = deal.reasons.filter(({ outcome }) => outcome === target.outcome);
  const chosen = reasons.find(({ id }) => lead.to === 'outcome' && id === lead.reason);
  const asksNothing = reasons.length === 0 || chosen?.followUp === 'not_asked';
  if (!others && asksNothing && !isWon(deal, target) && !requiresFields(deal, target.outcome)) return null;
  return { asks: 'closing', target, named: chosen?.id ?? '' };
}

/** Whether the outcome has fields of its own to be filled. */
const requiresFields = ({ document }: DealDetail, outcome: string): boolean =>
  outcomeOf(document, outcome)?.requirements.some(({ kind }) => kind === 'field') === true;

function targetOf(
  { document, stage }: { document: DealDetail['document']; stage: StageId },
  lead: ReturnType<typeof leadOf>,
): MoveTarget | null {
  switch (lead.to) {
    case 'move_on':
      return nextTarget(document, stage);
    case 'stage':
      return { to: 'stage', stage: lead.stage };
    case 'outcome':
      return { to: 'outcome', outcome: lead.outcome };
    case 'step':
    case 'finish':
      return null;
  }
}
