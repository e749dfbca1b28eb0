import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { dayCountWords, type Stage, type StageId } from '@ladder/core';
import type { KeyboardEvent } from 'react';
import { Button } from 'react-bootstrap';
import { GripVertical } from 'react-bootstrap-icons';
import { countOf } from '../../parts/format.ts';
import { Notch } from '../../parts/Notch.tsx';
import { newKey } from '../../parts/newKey.ts';
import { RemarkMark, StageMark } from './check/RemarkMark.tsx';
import { useDesign } from './designContext.ts';
import { RequirementLine } from './RequirementLine.tsx';
import type { Selection } from './useSelection.ts';

interface SheetProps {
  readonly selection: Selection;
  readonly onSelect: (selection: Selection) => void;
}

interface DesignSheetProps extends SheetProps {
  readonly check: React.ReactNode;
  readonly onHelp: () => void;
}

/** The whole process at a glance: one rung a stage, with what it asks, its checklist and its steps. */
export function DesignSheet({ selection, onSelect, onHelp, check }: DesignSheetProps) {
  return (
    <>
      <div className="sheet-cols" aria-hidden>
        <span />
        <span>Stage</span>
        <span>To enter, and before leaving</span>
        <span>Checklist</span>
        <span>Guided steps</span>
      </div>
      <SheetRungs selection={selection} onSelect={onSelect} />
      <Ends selection={selection} onSelect={onSelect} />
      {/* Above the check, whose length changes with each edit: what is pressed next stays where it is. */}
      <SheetFoot selection={selection} onSelect={onSelect} onHelp={onHelp} />
      {check}
      <SheetLegend />
    </>
  );
}

const DRAG_WORDS = { screenReaderInstructions: { draggable: 'The up and down arrow keys move the stage.' } };

function SheetRungs({ selection, onSelect }: SheetProps) {
  const { document, edit } = useDesign();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const drop = ({ active, over }: DragEndEvent) => {
    const place = document.stages.findIndex(({ id }) => id === over?.id);
    const moved = document.stages.find(({ id }) => id === active.id);
    if (moved && active.id !== over?.id && place >= 0) edit?.({ kind: 'move_stage', stage: moved.id, place });
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop} accessibility={DRAG_WORDS}>
      <SortableContext items={document.stages.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ol className="ladder sheet">
          {document.stages.map((stage, place) => (
            <SheetRung
              key={stage.id}
              stage={stage}
              place={place}
              isSelected={selection.kind === 'stage' && selection.stage === stage.id}
              onSelect={() => onSelect({ kind: 'stage', stage: stage.id })}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

function SheetFoot({ selection, onSelect, onHelp }: SheetProps & { readonly onHelp: () => void }) {
  const { document, edit } = useDesign();
  const add = () => {
    const id = newKey<StageId>();
    edit?.({ kind: 'add_stage', id, name: freeName(document.stages), place: document.stages.length });
    onSelect({ kind: 'stage', stage: id });
  };
  return (
    <div className="sheet-foot">
      {edit && (
        <Button variant="outline-secondary" data-act="add-stage" onClick={add}>
          Add stage
        </Button>
      )}
      <Button
        variant="outline-secondary"
        data-act="process"
        active={selection.kind === 'process'}
        onClick={() => onSelect({ kind: 'process' })}
      >
        Rules, reasons and fields
      </Button>
      <div className="grow" />
      <Button variant="link" onClick={onHelp}>
        Keys
      </Button>
    </div>
  );
}

function SheetLegend() {
  const { edit } = useDesign();
  return (
    <div className="legend">
      <span>
        <i className="edge-hold" />
        holds the move
      </span>
      <span>
        <i className="edge-flag" />
        flags the deal
      </span>
      <span>
        <em className="bind at_move" />
        judged at the move
      </span>
      <span>
        <em className="bind must_stay" />
        must stay so, until the deal closes
      </span>
      {edit && <span>Drag a stage by its handle, or use the arrow keys on it</span>}
    </div>
  );
}

function freeName(stages: readonly Stage[]): string {
  const taken = new Set(stages.map(({ name }) => name.trim().toLowerCase()));
  for (let number = stages.length + 1; ; number++) if (!taken.has(`stage ${number}`)) return `Stage ${number}`;
}

interface RungProps {
  readonly stage: Stage;
  readonly place: number;
  readonly isSelected: boolean;
  readonly onSelect: () => void;
}

function SheetRung({ stage, place, isSelected, onSelect }: RungProps) {
  const { document, edit } = useDesign();
  const sortable = useSortable({ id: stage.id, disabled: !edit });
  const { setNodeRef, transform, transition, isDragging } = sortable;
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`rung ${isSelected ? 'on' : ''} ${isDragging ? 'dragged' : ''}`}
    >
      <Notch place={place} count={document.stages.length} />
      <div className="sheet-stage">
        {edit && <Handle stage={stage} place={place} sortable={sortable} />}
        <button type="button" className="sheet-select" aria-pressed={isSelected} onClick={onSelect}>
          <span className="stage-name" title={stage.name}>
            {stage.name || 'No name yet'}
          </span>
          <span className="small muted">
            {stage.chance}% · {targetWords(stage)}
          </span>
        </button>
        <StageMark stage={stage.id} />
      </div>
      <RequirementLines stage={stage} />
      <ItemLines stage={stage} />
      <StepLines stage={stage} />
    </li>
  );
}

const targetWords = ({ target }: Stage): string => (target ? dayCountWords(target) : 'no target');

interface HandleProps extends Pick<RungProps, 'stage' | 'place'> {
  readonly sortable: ReturnType<typeof useSortable>;
}

/** By which a stage is dragged, or moved with the arrow keys. */
function Handle({ stage, place, sortable }: HandleProps) {
  const { document, edit } = useDesign();
  const {
    role: _role,
    'aria-roledescription': _description,
    'aria-pressed': _pressed,
    ...handle
  } = sortable.attributes;
  const moveByKey = (event: KeyboardEvent) => {
    const to = place + ({ ArrowUp: -1, ArrowDown: 1 }[event.key] ?? 0);
    if (to === place) return;
    event.preventDefault();
    if (to >= 0 && to < document.stages.length) edit?.({ kind: 'move_stage', stage: stage.id, place: to });
  };
  return (
    <button
      type="button"
      className="handle"
      ref={sortable.setActivatorNodeRef}
      aria-label={`Move ${stage.name}`}
      {...handle}
      {...sortable.listeners}
      onKeyDown={moveByKey}
    >
      <GripVertical aria-hidden />
    </button>
  );
}

function ItemLines({ stage }: { stage: Stage }) {
  return (
    <div className="sheet-items">
      {stage.checklist.map((item) => (
        <div key={item.id} title={item.text}>
          <RemarkMark part={item.id} /> {item.text} {item.need === 'optional' && <em>optional</em>}
          {item.need === 'must' && item.level === 'flag' && <em>flags</em>}
        </div>
      ))}
    </div>
  );
}

function StepLines({ stage }: { stage: Stage }) {
  return (
    <ol className="sheet-items sheet-steps">
      {stage.steps.map(({ id, name, due }) => (
        <li key={id}>
          <RemarkMark part={id} /> {name} {due && <em>{`${due.days}\u00a0d`}</em>}
        </li>
      ))}
    </ol>
  );
}

function RequirementLines({ stage }: { stage: Stage }) {
  return (
    <div className="sheet-reqs">
      {stage.enter.map((requirement) => (
        <RequirementLine key={requirement.id} requirement={requirement} />
      ))}
      {stage.leave.length > 0 && <span className="small muted">before leaving</span>}
      {stage.leave.map((requirement) => (
        <RequirementLine key={requirement.id} requirement={requirement} />
      ))}
    </div>
  );
}

function Ends({ selection, onSelect }: SheetProps) {
  const { document } = useDesign();
  return (
    <div className="sheet-ends">
      {document.outcomes.map(({ id, name, requirements }) => (
        <button
          key={id}
          type="button"
          className={selection.kind === 'outcome' && selection.outcome === id ? 'on' : ''}
          onClick={() => onSelect({ kind: 'outcome', outcome: id })}
        >
          <b>{name}</b>{' '}
          <span className="muted small">
            {requirements.length === 0 ? 'asks nothing more' : `asks ${countOf(requirements.length, 'requirement')}`}
          </span>
        </button>
      ))}
    </div>
  );
}
