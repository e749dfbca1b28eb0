import type { StageId } from '@ladder/core';
import { type MoveTarget, targetText } from '@ladder/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { useAppDispatch, useAppStore } from '../../client/hooks.ts';
import { useSession } from '../../client/session.ts';
import { type DealCard, type DealDetail, dealsApi, type Lanes, useMoveDealMutation } from './dealsApi.ts';
import type { MoveExtra } from './MoveDialog.tsx';
import { moveQuestions, NOTHING_ASKED } from './moveQuestions.ts';
import { useSeenRevision } from './useSeenRevision.ts';

/** A drop that needs words first: why it goes back, or how it closes. */
type Asking =
  | {
      readonly kind: 'move';
      readonly deal: DealDetail;
      readonly card: DealCard;
      readonly target: StageTarget;
      readonly move: 'forward' | 'return';
    }
  | { readonly kind: 'close'; readonly card: DealCard; readonly outcome: string };

type StageTarget = Extract<MoveTarget, { to: 'stage' }>;

/** Moves a dropped deal; a held one is opened with what is missing ready to be filled in, another refusal is told where it was dropped. */
export function useDropDeal(lanes: Lanes) {
  const [asking, setAsking] = useState<Asking | null>(null);
  const [message, setMessage] = useState('');
  const [refusal, setRefusal] = useState('');
  const [moveDeal] = useMoveDealMutation();
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const { organisation } = useSession();
  const seenRevision = useSeenRevision();
  const navigate = useNavigate();
  const placeOf = (stage: StageId): number => lanes.stages.findIndex(({ id }) => id === stage);

  /** The deal, where its move needs words. */
  const whatIsAsked = async (card: DealCard, target: StageTarget, move: 'forward' | 'return') => {
    const { data: deal } = await dispatch(dealsApi.endpoints.getDeal.initiate(card.id, { subscribe: false }));
    const { tasks, next } = deal ? moveQuestions(deal, target, organisation.today) : NOTHING_ASKED;
    return deal && (move === 'return' || tasks > 0 || next === 'yes') ? deal : null;
  };

  const drop = async (card: DealCard, target: MoveTarget, extra?: MoveExtra) => {
    if (target.to === 'outcome') return setAsking({ kind: 'close', card, outcome: target.outcome });
    if (target.stage === card.stage) return;
    const move = placeOf(target.stage) < placeOf(card.stage) ? 'return' : 'forward';
    const asked =
      extra === undefined && (move === 'return' || lanes.movesAsk === 'may')
        ? await whatIsAsked(card, target, move)
        : null;
    if (asked) return setAsking({ kind: 'move', deal: asked, card, target, move });
    // The drop goes with what the person saw: the card, and what they changed of the deal themselves meanwhile.
    const { data: opened } = dealsApi.endpoints.getDeal.select(card.id)(store.getState());
    const revision = await seenRevision({ id: card.id, revision: Math.max(card.revision, opened?.revision ?? 0) });
    const answer = await moveDeal({ deal: card.id, body: { target, revision, ...extra } });
    const problem = problemOf(answer.error);
    // What is wrong with what was written is told where that was.
    if (problem?.errors && extra) return answer;
    setAsking(null);
    const isHeld = problem?.verdict !== undefined;
    setRefusal(problem && !isHeld ? `${card.name}: ${problem.detail}` : '');
    setMessage(problem ? '' : `${card.name} was moved.`);
    if (isHeld) await navigate(`/deals/${card.id}?toward=${targetText(target)}`);
    return {};
  };
  return { drop, asking, stopAsking: () => setAsking(null), message, refusal };
}
