import type { MoveTarget } from '@ladder/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../../app/api.ts';
import { useAppDispatch } from '../../app/hooks.ts';
import { type DealCard, dealsApi, type Lanes, useMoveDealMutation } from './dealsApi.ts';
import { rungId } from './rung.ts';

/** A drop that needs words first: why it goes back, or how it closes. */
export type Asking =
  | { readonly kind: 'return'; readonly card: DealCard; readonly target: MoveTarget }
  | { readonly kind: 'close'; readonly card: DealCard; readonly outcome: 'won' | 'lost' };

/** Moves a dropped deal; a held one is opened with what is missing ready to be filled in. */
export function useDropDeal(lanes: Lanes) {
  const [asking, setAsking] = useState<Asking | null>(null);
  const [message, setMessage] = useState('');
  const [moveDeal] = useMoveDealMutation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const placeOf = (stage: string): number => lanes.stages.findIndex(({ id }) => id === stage);

  const drop = async (card: DealCard, target: MoveTarget, text?: string) => {
    if (target.to !== 'stage') return setAsking({ kind: 'close', card, outcome: target.to });
    if (target.stage === card.stage) return;
    const isReturn = placeOf(target.stage) < placeOf(card.stage);
    if (isReturn && text === undefined) return setAsking({ kind: 'return', card, target });
    setAsking(null);
    const { data: deal, error } = await dispatch(
      dealsApi.endpoints.getDeal.initiate(card.id, { forceRefetch: true, subscribe: false }),
    );
    if (!deal) return setMessage(`${card.name} was not moved: ${problemOf(error)?.detail ?? 'no answer'}`);
    const answer = await moveDeal({
      deal: card.id,
      body: { target, revision: deal.revision, ...(text ? { text } : {}) },
    });
    const problem = problemOf(answer.error);
    setMessage(problem ? `${card.name}: ${problem.detail}` : `${card.name} was moved.`);
    if (problem) navigate(`/deals/${card.id}?toward=${rungId(target)}`);
  };
  return { drop, asking, stopAsking: () => setAsking(null), message };
}
