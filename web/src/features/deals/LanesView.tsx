import {
  type CollisionDetection,
  closestCenter,
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { targetFromText, targetText } from '@ladder/core';
import { useEffect, useRef } from 'react';
import { useSession } from '../../client/session.ts';
import { PastNote } from '../../parts/PastNote.tsx';
import { Card } from './Card.tsx';
import { CloseDialog } from './CloseDialog.tsx';
import type { Choose } from './DealsPage.tsx';
import type { DealCard, Lanes } from './dealsApi.ts';
import { LaneRow } from './LaneRow.tsx';
import { MoveDialog } from './MoveDialog.tsx';
import { OutcomeRow } from './OutcomeRow.tsx';
import { type Carried, type KeysOn, useCarry } from './useCarry.ts';
import { useDropDeal } from './useDropDeal.ts';

interface LanesViewProps {
  readonly lanes: Lanes;
  /** Whether a past day is told by what was known then. */
  readonly known: string | null;
  readonly choose: Choose;
}

/** The ladder with its deals: age on the axis, and a drop on another rung is a move through its gate. */
export function LanesView({ lanes, known, choose }: LanesViewProps) {
  const { person } = useSession();
  const { drop, asking, stopAsking, message, refusal } = useDropDeal(lanes);
  const { carried, take, hover, putBack, letGo, keysOn } = useCarry(lanes, drop);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const isPast = lanes.on < lanes.today;
  const mayMove = person.role !== 'viewer' && !isPast;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={rungUnder}
      onDragStart={({ active }) => take(active.data.current as DealCard, 'pointer')}
      onDragOver={({ over }) => hover(over ? targetFromText(String(over.id)) : null)}
      onDragEnd={letGo}
      onDragCancel={putBack}
      accessibility={{ screenReaderInstructions: { draggable: HOW_TO_CARRY } }}
    >
      <div className="lanes">
        {refusal && (
          <div className="notice bad" role="alert">
            {refusal}
          </div>
        )}
        <Axis />
        <p className="sr" role="status">
          {carried?.by === 'keyboard' ? `${carried.card.name} is in your hand.` : message}
        </p>
        <Rungs lanes={lanes} carried={carried} keysOn={mayMove ? keysOn : null} />
        {isPast ? (
          <PastNote
            of="deals"
            told={lanes}
            known={known}
            onKnown={(value) => choose('known', value)}
            onToday={() => choose('on', null)}
          />
        ) : (
          <Legend mayMove={mayMove} />
        )}
      </div>
      <DragOverlay dropAnimation={null}>
        {carried?.by === 'pointer' && <Card card={carried.card} className="lifted" />}
      </DragOverlay>
      {asking?.kind === 'move' && (
        <MoveDialog
          deal={asking.deal}
          target={asking.target}
          kind={asking.move}
          name={lanes.stages.find(({ id }) => id === asking.target.stage)?.name ?? ''}
          onMove={async (extra) => (await drop(asking.card, asking.target, extra)) ?? {}}
          onClose={stopAsking}
        />
      )}
      {asking?.kind === 'close' && <CloseDialog deal={asking.card.id} outcome={asking.outcome} onClose={stopAsking} />}
    </DndContext>
  );
}

const HOW_TO_CARRY = 'Press Space to take the deal, and the arrow keys to choose a stage.';

/** The rung under the pointer; beside all of them, the nearest. */
const rungUnder: CollisionDetection = (input) => {
  const hit = pointerWithin(input);
  return hit.length > 0 ? hit : closestCenter(input);
};

interface RungsProps {
  readonly lanes: Lanes;
  readonly carried: Carried | null;
  /** Null where the person moves nothing. */
  readonly keysOn: KeysOn | null;
}

/** Stages on top of each other, then the ways in which it ends. The rung that a key chose is brought into view. */
function Rungs({ lanes, carried, keysOn }: RungsProps) {
  const overRung = carried?.over ? targetText(carried.over) : null;
  const ladder = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (overRung && carried?.by === 'keyboard')
      ladder.current?.querySelector('.lane.over')?.scrollIntoView({ block: 'nearest' });
  }, [overRung, carried?.by]);
  const card = carried?.card ?? null;
  return (
    <div className="ladder" ref={ladder}>
      {[...lanes.stages, ...lanes.otherStages].map((lane, place) => (
        <LaneRow
          key={lane.id}
          lane={lane}
          lanes={lanes}
          place={place}
          carried={card}
          isOver={overRung === targetText({ to: 'stage', stage: lane.id })}
          {...(keysOn ? { keysOn } : {})}
        />
      ))}
      {lanes.outcomes.map((outcome) => (
        <OutcomeRow
          key={outcome.id}
          outcome={outcome}
          currency={lanes.currency}
          carried={card}
          isOver={overRung === targetText({ to: 'outcome', outcome: outcome.id })}
        />
      ))}
    </div>
  );
}

const Axis = () => (
  <div className="lane-axis small muted" aria-hidden>
    <span className="time">
      <span style={{ left: 0 }}>Just arrived</span>
      <span style={{ left: '29%' }}>Half of target</span>
      <b style={{ left: '58%' }}>Target</b>
      <span style={{ left: '87%' }}>1½ times</span>
    </span>
    <span className="num">Value, weighted, age</span>
  </div>
);

const Legend = ({ mayMove }: { mayMove: boolean }) => (
  <div className="legend">
    <span>
      <i className="edge-hold" />
      held: a move was refused, or something it must keep has lapsed
    </span>
    <span>
      <i className="edge-flag" />
      only flagged
    </span>
    <span>● one deal at its exact age</span>
    <span>
      <b>+3</b> opens the crowd
    </span>
    {mayMove && <span>Drag a deal on, or press Space on it and use the arrow keys</span>}
  </div>
);
