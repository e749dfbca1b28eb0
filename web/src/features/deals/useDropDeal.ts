import type { StageId } from '@ladder/core';
import { type MoveTarget, targetText } from '@ladder/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useAppStore } from '../../client/hooks.ts';
import { type DealCard, dealsApi, type Lanes, useMoveDealMutation } from './dealsApi.ts';
import { useSeenRevision } from './useSeenRevision.ts';

/** A drop that needs words first: why it goes back, or how it closes. */
type Asking =
  | { readonly kind: 'return'; readonly card: DealCard; readonly target: MoveTarget }
  | { readonly kind: 'close'; readonly card: DealCard; readonly outcome: string };

/** How a move that its gate holds is answered. */
const HELD = 422;

/** Moves a dropped deal; a held one is opened with what is missing ready to be filled in, another refusal is told where it was dropped. */
export function useDropDeal(lanes: Lanes) {
  const [asking, setAsking] = useState<Asking | null>(null);
  const [message, setMessage] = useState('');
  const [refusal, setRefusal] = useState('');
  const [moveDeal] = useMoveDealMutation();
  const store = useAppStore();
  const seenRevision = useSeenRevision();
  const navigate = useNavigate();
  const placeOf = (stage: StageId): number => lanes.stages.findIndex(({ id }) => id === stage);

  const drop = async (card: DealCard, target: MoveTarget, text?: string) => {
    if (target.to === 'outcome') return setAsking({ kind: 'close', card, outcome: target.outcome });
    if (target.stage === card.stage) return;
    const isReturn = placeOf(target.stage) < placeOf(card.stage);
    if (isReturn && text === undefined) return setAsking({ kind: 'return', card, target });
    setAsking(null);
    // The drop goes with what the person saw: the card, and what they changed of the deal themselves meanwhile.
    const { data: opened } = dealsApi.endpoints.getDeal.select(card.id)(store.getState());
    const revision = await seenRevision({ id: card.id, revision: Math.max(card.revision, opened?.revision ?? 0) });
    const answer = await moveDeal({ deal: card.id, body: { target, revision, ...(text ? { text } : {}) } });
    const problem = problemOf(answer.error);
    const isHeld = problem?.status === HELD;
    setRefusal(problem && !isHeld ? `${card.name}: ${problem.detail}` : '');
    setMessage(problem ? '' : `${card.name} was moved.`);
    if (isHeld) await navigate(`/deals/${card.id}?toward=${targetText(target)}`);
  };
  return { drop, asking, stopAsking: () => setAsking(null), message, refusal };
}
