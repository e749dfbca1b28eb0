import { useDroppable } from '@dnd-kit/core';
import { targetText } from '@ladder/core';
import type { CSSProperties } from 'react';
import { countOf, shortMoney } from '../../parts/format.ts';
import { DropVerdict } from './DropVerdict.tsx';
import type { DealCard, LaneOutcome } from './dealsApi.ts';

interface OutcomeRowProps {
  readonly outcome: LaneOutcome;
  readonly currency: string;
  readonly carried: DealCard | null;
  readonly isOver: boolean;
}

/** One of the last rungs: how it ends, and where a deal may be dropped to close it. */
export function OutcomeRow({ outcome, currency, carried, isOver }: OutcomeRowProps) {
  const target = { to: 'outcome', outcome: outcome.id } as const;
  const { setNodeRef } = useDroppable({ id: targetText(target) });
  return (
    <section className={`rung lane out ${isOver ? 'over' : ''}`} ref={setNodeRef} aria-label={outcome.name}>
      <OutcomeNotch counts={outcome.counts} />
      <div className="lane-name">
        <h2 className="stage-name">{outcome.name}</h2>
        <small>{outcome.count} this month</small>
      </div>
      <div className="lane-time no-target">
        <div className="drop-hint">
          <b>Drop here to close as {outcome.name.toLowerCase()}</b> {outcomeNeeds(outcome)}
        </div>
        {isOver && carried && <DropVerdict deal={carried.id} target={target} />}
      </div>
      <div className="lane-sum">
        <b className="figure-head">{shortMoney(outcome.minor, currency)}</b>
      </div>
    </section>
  );
}

function OutcomeNotch({ counts }: Pick<LaneOutcome, 'counts'>) {
  const [tone, mark] = counts === 'won' ? ['var(--juniper)', '✓'] : ['var(--sand-2)', '–'];
  return (
    <div className="notch">
      <i className={counts === 'won' ? 'deep' : ''} style={{ '--tone': tone } as CSSProperties}>
        {mark}
      </i>
    </div>
  );
}

function outcomeNeeds({ reasons, followUpReasons }: LaneOutcome): string {
  if (reasons === 0) return '';
  const followUp =
    followUpReasons > 0
      ? `; ${followUpReasons} of them ${followUpReasons === 1 ? 'sets' : 'set'} a follow-up date`
      : '';
  return `with one of ${countOf(reasons, 'reason')}${followUp}`;
}
