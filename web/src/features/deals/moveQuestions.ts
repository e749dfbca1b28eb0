import type { deal as contract, TypeOf } from '@ladder/contract';
import { type FactValue, type MoveTarget, routeTo, taskMoveOf } from '@ladder/core';
import type { DealDetail } from './dealsApi.ts';

type MoveBody = TypeOf<typeof contract.move>;

/** What whoever moves a deal is asked beside its gate. */
export interface MoveQuestions {
  /** Open tasks of which the process asks what becomes of them. */
  readonly tasks: number;
  /** Whether the deal would be left without a next action, where the process wants one. */
  readonly next: 'no' | 'yes';
}

export const NOTHING_ASKED: MoveQuestions = { tasks: 0, next: 'no' };

export function moveQuestions(deal: DealDetail, target: MoveTarget, today: string): MoveQuestions {
  const route = routeTo(deal.document, deal.stage, target);
  if (!route.ok) return NOTHING_ASKED;
  const move = taskMoveOf(route.value);
  const open = deal.tasks.filter(({ end }) => end === null).length;
  return {
    tasks: deal.taskFates[move] === 'ask' ? open : 0,
    next: move !== 'closing' && deal.nextActionRule !== 'off' && lacksNext(deal, today) ? 'yes' : 'no',
  };
}

/** Nothing is said of what comes next, or it was to be done by now. */
function lacksNext({ values }: DealDetail, today: string): boolean {
  const { next_action: text, next_action_day: day } = values;
  return !text || !day || String(day) < today;
}

/** What is written in a dialog about them. */
export interface MoveAnswers {
  readonly tasks: '' | 'keep' | 'cancel';
  readonly nextAction: string;
  readonly nextDay: string;
}

export const NO_ANSWERS: MoveAnswers = { tasks: '', nextAction: '', nextDay: '' };

/** The same as a move, or a result that makes one, sends it. */
export function answersToSend(deal: DealDetail, { tasks, nextAction, nextDay }: MoveAnswers) {
  const changes: MoveBody['changes'] = [
    ...(nextAction.trim() ? [change(deal, 'next_action', nextAction.trim())] : []),
    ...(nextAction.trim() || nextDay ? [change(deal, 'next_action_day', nextDay || null)] : []),
  ];
  return { ...(tasks ? { tasks } : {}), ...(changes.length > 0 ? { changes } : {}) };
}

const change = (deal: DealDetail, field: string, value: FactValue) => ({
  field,
  saw: deal.values[field] ?? null,
  value,
});
