import type { MoveTarget } from '@ladder/core';
import { type KeyboardEvent, useState } from 'react';
import type { DealCard, Lanes } from './dealsApi.ts';

/** A deal in the hand, by pointer or by keyboard, and the rung it is over: none while that is its own. */
export interface Carried {
  readonly card: DealCard;
  readonly over: MoveTarget | null;
  readonly by: 'pointer' | 'keyboard';
}

export type KeysOn = ReturnType<typeof useCarry>['keysOn'];

type Drop = (card: DealCard, target: MoveTarget) => Promise<unknown>;

/**
 * A deal carried over the ladder. By keyboard: Space takes the card that has the focus, the arrows choose a rung,
 * Space lets go, and Escape or leaving the card puts it back. No key depends on where things are drawn.
 */
export function useCarry(lanes: Lanes, drop: Drop) {
  const [carried, setCarried] = useState<Carried | null>(null);
  const rungs: readonly MoveTarget[] = [
    ...[...lanes.stages, ...lanes.otherStages].map(({ id }): MoveTarget => ({ to: 'stage', stage: id })),
    ...lanes.outcomes.map(({ id }): MoveTarget => ({ to: 'outcome', outcome: id })),
  ];
  const overOf = (card: DealCard, target: MoveTarget | null): MoveTarget | null =>
    target?.to === 'stage' && target.stage === card.stage ? null : target;

  const take = (card: DealCard, by: Carried['by']) => setCarried({ card, over: null, by });
  const hover = (target: MoveTarget | null) =>
    setCarried((current) => current && { ...current, over: overOf(current.card, target) });
  const putBack = () => setCarried(null);
  const letGo = () => {
    if (carried?.over) void drop(carried.card, carried.over);
    putBack();
  };

  const step = ({ card, over }: Carried, by: 1 | -1) => {
    const here = rungs.findIndex((rung) => isSameRung(rung, over ?? { to: 'stage', stage: card.stage }));
    hover(rungs[Math.min(Math.max(here + by, 0), rungs.length - 1)] ?? null);
  };

  /** What a key does on a card; null is a key that carrying has no use for. */
  const actOf = (key: string, card: DealCard): (() => void) | null => {
    const mine = carried?.by === 'keyboard' && carried.card.id === card.id ? carried : null;
    if (key === 'Space') return mine ? letGo : () => take(card, 'keyboard');
    if (!mine) return null;
    if (key === 'ArrowDown') return () => step(mine, 1);
    if (key === 'ArrowUp') return () => step(mine, -1);
    return key === 'Escape' ? putBack : null;
  };
  const keysOn = (card: DealCard) => ({
    onKeyDown: (event: KeyboardEvent) => {
      const act = actOf(event.code, card);
      if (!act) return;
      event.preventDefault();
      act();
    },
    onBlur: () => setCarried((current) => (current?.by === 'keyboard' ? null : current)),
  });
  return { carried, take, hover, putBack, letGo, keysOn };
}

const isSameRung = (a: MoveTarget, b: MoveTarget): boolean =>
  a.to === b.to && (a.to !== 'stage' || b.to !== 'stage' || a.stage === b.stage);
