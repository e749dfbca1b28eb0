import type { deal as contract, TypeOf } from '@ladder/contract';
import { type FactValue, type Field, isMoney, isWon, type MoveTarget, type Values } from '@ladder/core';
import { isOpenItem } from './DropVerdict.tsx';
import type { DealDetail, Verdict } from './dealsApi.ts';
import { answersToSend, type MoveAnswers, NO_ANSWERS } from './moveQuestions.ts';

type MoveBody = TypeOf<typeof contract.move>;

/** What is written in a dialog about a closing. */
export interface ClosingAnswers extends MoveAnswers {
  readonly reason: string;
  readonly followUp: string;
  readonly text: string;
  readonly final: { readonly value: FactValue; readonly day: string };
  /** Fields that the outcome requires, filled with it. */
  readonly facts: Values;
}

/** The value as it was estimated, and today: most deals are closed on the day on which they are won, whatever was expected. */
export const beginClosing = (deal: DealDetail, today: string): ClosingAnswers => ({
  ...NO_ANSWERS,
  reason: '',
  followUp: '',
  text: '',
  final: { value: deal.values.value ?? null, day: today },
  facts: {},
});

/** Fields that the outcome asks for and that are not filled well, but for those that its final facts fill. */
export function fieldsAsked(deal: DealDetail, target: MoveTarget, verdict: Verdict | undefined): readonly Field[] {
  const final = isWon(deal, target) ? ['value', 'close_date'] : [];
  const asked = verdict?.items.flatMap((item) =>
    item.at === 'outcome' && isOpenItem(item) && item.remedy.kind === 'fill' ? item.remedy.fields : [],
  );
  return deal.fields.filter(
    ({ id, holder, type }) =>
      holder === 'deal' && type !== 'calculated' && asked?.includes(id) === true && !final.includes(id),
  );
}

/** The same as a move, or a result that closes the deal, sends it. */
export function closingToSend(deal: DealDetail, target: MoveTarget, answers: ClosingAnswers) {
  const { reason, followUp, text, final, facts, ...others } = answers;
  const { changes: next = [], ...sent } = answersToSend(deal, others);
  const filled = Object.entries(facts).map(([field, value]) => ({ field, saw: deal.values[field] ?? null, value }));
  const changes: MoveBody['changes'] = [...next, ...filled];
  return {
    ...sent,
    ...(changes.length > 0 ? { changes } : {}),
    ...(reason ? { reason } : {}),
    ...(followUp ? { followUp } : {}),
    ...(text.trim() ? { text: text.trim() } : {}),
    ...(isWon(deal, target) ? { final: { value: isMoney(final.value) ? final.value : null, day: final.day } } : {}),
  };
}
