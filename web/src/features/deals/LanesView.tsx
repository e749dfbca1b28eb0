import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  type DragOverEvent,
  DragOverlay,
  type DragStartEvent,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import type { MoveTarget } from '@ladder/core';
import { useState } from 'react';
import { useSession } from '../../app/session.ts';
import { Card } from './Card.tsx';
import { CloseDialog } from './CloseDialog.tsx';
import type { DealCard, Lanes } from './dealsApi.ts';
import { LaneRow } from './LaneRow.tsx';
import { nextRung } from './nextRung.ts';
import { OutcomeRow } from './OutcomeRow.tsx';
import { ReasonDialog } from './ReasonDialog.tsx';
import { targetOfRung } from './rung.ts';
import { useDropDeal } from './useDropDeal.ts';

interface Drag {
  readonly card: DealCard;
  readonly over: MoveTarget | null;
}

/** The ladder with its deals: age on the axis, and a drop on another rung is a move through its gate. */
export function LanesView({ lanes }: { lanes: Lanes }) {
  const { person } = useSession();
  const [drag, setDrag] = useState<Drag | null>(null);
  const { drop, asking, stopAsking, message } = useDropDeal(lanes);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: nextRung,
      keyboardCodes: { start: ['Space'], cancel: ['Escape'], end: ['Space'] },
    }),
  );
  const begin = ({ active }: DragStartEvent) => setDrag({ card: active.data.current as DealCard, over: null });
  const over = ({ over: rung }: DragOverEvent) =>
    setDrag((current) => current && { ...current, over: rung ? targetOfRung(String(rung.id)) : null });
  const end = ({ over: rung }: DragEndEvent) => {
    if (drag && rung) void drop(drag.card, targetOfRung(String(rung.id)));
    setDrag(null);
  };
  const stages = [...lanes.stages, ...lanes.otherStages];
  const isOver = (id: string): boolean =>
    drag?.over?.to === 'stage' && drag.over.stage === id && drag.card.stage !== id;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={(input) => {
        const hit = pointerWithin(input);
        return hit.length > 0 ? hit : closestCenter(input);
      }}
      onDragStart={begin}
      onDragOver={over}
      onDragEnd={end}
      onDragCancel={() => setDrag(null)}
    >
      <div className="lanes">
        <div className="lane-axis small muted" aria-hidden>
          <span className="time">
            <span style={{ left: 0 }}>Just arrived</span>
            <span style={{ left: '29%' }}>Half of target</span>
            <b style={{ left: '58%' }}>Target</b>
            <span style={{ left: '87%' }}>1½ times</span>
          </span>
          <span className="num">Value, weighted, age</span>
        </div>
        <p className="sr" role="status">
          {message}
        </p>
        <div className="ladder">
          {stages.map((lane, place) => (
            <LaneRow
              key={lane.id}
              lane={lane}
              lanes={lanes}
              place={place}
              dragged={drag?.card ?? null}
              isOver={isOver(lane.id)}
              mayMove={person.role !== 'viewer'}
            />
          ))}
          <OutcomeRow outcome="won" lanes={lanes} dragged={drag?.card ?? null} isOver={drag?.over?.to === 'won'} />
          <OutcomeRow outcome="lost" lanes={lanes} dragged={drag?.card ?? null} isOver={drag?.over?.to === 'lost'} />
        </div>
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
          {person.role !== 'viewer' && (
            <span>Drag a deal to another stage, or press Space on it and use the arrow keys</span>
          )}
        </div>
      </div>
      <DragOverlay dropAnimation={null}>{drag && <Card card={drag.card} className="lifted" />}</DragOverlay>
      {asking?.kind === 'return' && (
        <ReasonDialog
          title={`Move ${asking.card.name} back`}
          label="Why does it go back?"
          confirm="Move back"
          onConfirm={(text) => drop(asking.card, asking.target, text)}
          onClose={stopAsking}
        />
      )}
      {asking?.kind === 'close' && <CloseDialog deal={asking.card.id} outcome={asking.outcome} onClose={stopAsking} />}
    </DndContext>
  );
}
