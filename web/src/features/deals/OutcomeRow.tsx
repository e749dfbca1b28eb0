import { useDroppable } from '@dnd-kit/core';
import type { CSSProperties } from 'react';
import { countOf, shortMoney } from '../../parts/format.ts';
import { DropVerdict } from './DropVerdict.tsx';
import type { DealCard, Lanes } from './dealsApi.ts';

/** One of the last two rungs: how it ends, and where a deal may be dropped to close it. */
export function OutcomeRow({
  outcome,
  lanes,
  carried,
  isOver,
}: {
  outcome: 'won' | 'lost';
  lanes: Lanes;
  carried: DealCard | null;
  isOver: boolean;
}) {
  const { setNodeRef } = useDroppable({ id: outcome });
  const { count, minor } = lanes[outcome];
  return (
    <section
      className={`rung lane out ${isOver ? 'over' : ''}`}
      ref={setNodeRef}
      aria-label={outcome === 'won' ? 'Won' : 'Lost'}
    >
      <div className="notch">
        <i
          className={outcome === 'won' ? 'deep' : ''}
          style={{ '--tone': outcome === 'won' ? 'var(--juniper)' : 'var(--sand-2)' } as CSSProperties}
        >
          {outcome === 'won' ? '✓' : '–'}
        </i>
      </div>
      <div className="lane-name">
        <h2 className="stage-name">{outcome === 'won' ? 'Won' : 'Lost'}</h2>
        <small>{count} this month</small>
      </div>
      <div className="lane-time no-target">
        <div className="drop-hint">
          <b>Drop here to close as {outcome}</b> {outcomeNeeds(outcome, lanes)}
        </div>
        {isOver && carried && <DropVerdict deal={carried.id} target={{ to: outcome }} />}
      </div>
      <div className="lane-sum">
        <b className="figure-head">{shortMoney(minor, lanes.currency)}</b>
      </div>
    </section>
  );
}

function outcomeNeeds(outcome: 'won' | 'lost', { outcomes }: Lanes): string {
  const reasons = outcome === 'won' ? outcomes.wonReasons : outcomes.lostReasons;
  if (reasons === 0) return '';
  const followUp =
    outcome === 'lost' && outcomes.followUpReasons > 0
      ? `; ${outcomes.followUpReasons} of them ${outcomes.followUpReasons === 1 ? 'sets' : 'set'} a follow-up date`
      : '';
  return `with one of ${countOf(reasons, 'reason')}${followUp}`;
}
