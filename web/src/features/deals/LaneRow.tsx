import { useDraggable, useDroppable } from '@dnd-kit/core';
import { targetText } from '@ladder/core';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { countOf, shortMoney } from '../../parts/format.ts';
import { Notch } from '../../parts/Notch.tsx';
import { Card } from './Card.tsx';
import { Crowd } from './Crowd.tsx';
import { DropVerdict } from './DropVerdict.tsx';
import type { DealCard, Lane, Lanes } from './dealsApi.ts';
import { type Placed, placeCards, placeOfAge, TARGET_AT } from './placeCards.ts';
import type { KeysOn } from './useCarry.ts';

interface LaneRowProps {
  readonly lane: Lane;
  readonly lanes: Lanes;
  readonly place: number;
  readonly carried: DealCard | null;
  readonly isOver: boolean;
  /** The keys that carry a card; none where deals may not be moved. */
  readonly keysOn?: KeysOn;
}

/** One stage: its deals at their ages, its target, and its figures. */
export function LaneRow({ lane, lanes, place, carried, isOver, keysOn }: LaneRowProps) {
  const { setNodeRef } = useDroppable({ id: targetText({ to: 'stage', stage: lane.id }) });
  const [time, width] = useWidth();
  const { currency } = lanes;
  return (
    <section className={`rung lane ${isOver ? 'over' : ''}`} ref={setNodeRef} aria-label={lane.name}>
      <Notch place={place} count={lanes.stages.length} />
      <div className="lane-name">
        <h2 className="stage-name">{lane.name}</h2>
        {countOf(lane.count, 'deal')}
        <small>
          {lane.pastTarget > 0 && (
            <span className="text-nowrap">
              {lane.pastTarget} past target{lane.held > 0 && ','}
            </span>
          )}{' '}
          {lane.held > 0 && <b className="text-held text-nowrap">{lane.held} held</b>}
        </small>
      </div>
      <div className={`lane-time ${lane.targetDays === null ? 'no-target' : ''}`} ref={time}>
        {width > 0 &&
          placeCards(lane, width).map((placed) => (
            <PlacedDeal
              key={placedKey(placed)}
              placed={placed}
              lane={lane}
              lanes={lanes}
              isCarried={placed.kind === 'card' && placed.card.id === carried?.id}
              {...(keysOn ? { keysOn } : {})}
            />
          ))}
        <Ruler lane={lane} />
        {isOver && carried && <DropVerdict deal={carried.id} target={{ to: 'stage', stage: lane.id }} />}
      </div>
      <div className="lane-sum">
        <b className="figure-head">{shortMoney(lane.minor, currency)}</b>
        <span>
          {shortMoney(lane.weightedMinor, currency)} at {lane.chance}%
        </span>
        <span>
          {lane.medianAge === null
            ? 'no deals'
            : `median ${lane.medianAge}${lane.targetDays === null ? '' : ` of ${lane.targetDays}`} days`}
        </span>
      </div>
    </section>
  );
}

const placedKey = (placed: Placed): string =>
  placed.kind === 'card' ? placed.card.id : `crowd ${placed.row} ${placed.left}`;

function PlacedDeal({
  placed,
  lane,
  lanes,
  isCarried,
  keysOn,
}: {
  placed: Placed;
  lane: Lane;
  lanes: Lanes;
  isCarried: boolean;
  keysOn?: KeysOn;
}) {
  const style = { left: placed.left, top: placed.row === 0 ? 3 : 39 };
  if (placed.kind === 'stack') return <Crowd stack={placed} lane={lane} lanes={lanes} style={style} />;
  return <DraggableCard card={placed.card} isGhost={isCarried} style={style} {...(keysOn ? { keysOn } : {})} />;
}

function DraggableCard({
  card,
  isGhost,
  keysOn,
  style,
}: {
  card: DealCard;
  isGhost: boolean;
  keysOn?: KeysOn;
  style: React.CSSProperties;
}) {
  const { attributes, listeners, setNodeRef } = useDraggable({ id: card.id, data: card, disabled: !keysOn });
  const navigate = useNavigate();
  const open = (event: React.MouseEvent) => {
    if (event.metaKey || event.ctrlKey) return;
    event.preventDefault();
    void navigate(`/deals/${card.id}`);
  };
  const { role: _role, 'aria-disabled': _disabled, 'aria-pressed': _pressed, ...described } = attributes;
  return (
    <Card
      ref={setNodeRef}
      card={card}
      className={isGhost ? 'ghost' : ''}
      style={style}
      draggable={false}
      onClick={open}
      {...(keysOn ? { ...described, ...listeners, ...keysOn(card) } : {})}
    />
  );
}

const STEP_CHOICES = [1, 2, 5, 10, 20, 50, 100];

/** Exact ages below the cards: a tick every so many days, and one dot a deal. */
function Ruler({ lane }: { lane: Lane }) {
  const target = lane.targetDays;
  const end = (target ?? 30) / TARGET_AT;
  const step = STEP_CHOICES.find((days) => end / days <= 7) ?? 200;
  const marks = Array.from({ length: Math.floor(end / step) }, (_none, place) => (place + 1) * step).filter(
    (day) => target === null || Math.abs(day - target) > step * 0.4,
  );
  const at = (age: number): string => `${placeOfAge(age, target) * 100}%`;
  return (
    <div className="ruler" aria-hidden>
      {marks.map((day) => (
        <u key={day} style={{ left: at(day) }}>
          {day}
        </u>
      ))}
      {target !== null && (
        <u className="target" style={{ left: at(target) }}>
          {target} days
        </u>
      )}
      {lane.ages.map(({ age, standing, past }) => (
        <i
          key={`${age} ${standing}`}
          className={past > 0 ? 'late' : ''}
          style={{ left: `min(${at(age)}, calc(100% - 6px))` }}
        />
      ))}
    </div>
  );
}

/** The width of an element, kept as it changes. */
function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const element = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry?.contentRect.width ?? 0)));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, []);
  return [element, width];
}
