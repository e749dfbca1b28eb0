import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { dueWords, FEW_STEPS, type GuidedStep, newStep, type Stage, whoWords } from '@ladder/core';
import { type KeyboardEvent, useState } from 'react';
import { Button } from 'react-bootstrap';
import { GripVertical } from 'react-bootstrap-icons';
import { AddLine } from '../../../parts/form/AddLine.tsx';
import { newKey } from '../../../parts/newKey.ts';
import { CopyDialog } from '../CopyDialog.tsx';
import { useDesign } from '../designContext.ts';
import { copiedStep } from './copiedStep.ts';
import { freeStepName } from './freeStepName.ts';
import { PlayDialog } from './PlayDialog.tsx';
import { StepDialog } from './StepDialog.tsx';
import { StepsDiagram } from './StepsDiagram.tsx';
import { usePeopleNames } from './usePeopleNames.ts';

/** What is open over the sheet. */
type Open = { readonly as: 'edit' | 'copy'; readonly step: GuidedStep } | { readonly as: 'play' } | null;

/** A stage's guided steps: their order, what each says, where their results lead, and how a seller will see them. */
export function StepsSection({ stage }: { stage: Stage }) {
  const { edit } = useDesign();
  const [open, setOpen] = useState<Open>(null);
  const { steps } = stage;
  const close = () => setOpen(null);
  const put = (step: GuidedStep) => edit?.({ kind: 'put_step', stage: stage.id, step });
  const add = (name: string) => {
    const step = newStep(newKey(), freeStepName(steps, name), { id: newKey(), name: 'Done' });
    put(step);
    setOpen({ as: 'edit', step });
  };
  return (
    <section>
      <header>
        <h3>Guided steps</h3>
        {steps.length > 0 && (
          <Button variant="link" onClick={() => setOpen({ as: 'play' })}>
            Preview
          </Button>
        )}
      </header>
      {steps.length === 0 && <p className="muted small">Nothing is led through here.</p>}
      <StepList stage={stage} onOpen={setOpen} />
      {edit && <AddLine label="New guided step" placeholder="New step" confirm="Add step" max={120} onAdd={add} />}
      {edit && <Hint count={steps.length} />}
      {steps.length > 0 && <StepsDiagram stage={stage} />}
      {open?.as === 'edit' && (
        <StepDialog
          stage={stage}
          step={steps.find(({ id }) => id === open.step.id) ?? open.step}
          onSave={(step) => {
            put(step);
            close();
          }}
          onClose={close}
        />
      )}
      {open?.as === 'copy' && (
        <CopyDialog
          name={open.step.name}
          note="What leads to something that is not there leads to the next step."
          placesIn={({ stages }) => stages.filter(({ id }) => id !== stage.id)}
          toEdit={(place, into) => {
            const target = into.stages.find(({ id }) => id === place);
            return target ? { kind: 'put_step', stage: target.id, step: copiedStep(open.step, into, target) } : null;
          }}
          onClose={close}
        />
      )}
      {open?.as === 'play' && <PlayDialog stage={stage} onClose={close} />}
    </section>
  );
}

/** Common practice, where a person hesitates. */
function Hint({ count }: { count: number }) {
  return (
    <p className="small muted mb-2">
      {count > FEW_STEPS
        ? `${count} steps: more than ${FEW_STEPS} in a stage are rarely followed. What only helps can be a checklist item.`
        : 'What the sale cannot go on without is a step; the rest is a checklist item.'}
    </p>
  );
}

interface ListProps {
  readonly stage: Stage;
  readonly onOpen: (open: Open) => void;
}

const DRAG_WORDS = { screenReaderInstructions: { draggable: 'The up and down arrow keys move the step.' } };

function StepList({ stage, onOpen }: ListProps) {
  const { edit } = useDesign();
  const { steps } = stage;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const drop = ({ active, over }: DragEndEvent) => {
    const place = steps.findIndex(({ id }) => id === over?.id);
    if (active.id !== over?.id && place >= 0)
      edit?.({ kind: 'move_step', stage: stage.id, step: String(active.id), place });
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop} accessibility={DRAG_WORDS}>
      <SortableContext items={steps.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ol className="step-list">
          {steps.map((step, place) => (
            <StepRow key={step.id} stage={stage} step={step} place={place} onOpen={onOpen} />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

interface RowProps extends ListProps {
  readonly step: GuidedStep;
  readonly place: number;
}

function StepRow({ stage, step, place, onOpen }: RowProps) {
  const { edit } = useDesign();
  const nameOf = usePeopleNames();
  const { setNodeRef, transform, transition, ...sortable } = useSortable({ id: step.id, disabled: !edit });
  const { role: _role, 'aria-roledescription': _words, 'aria-pressed': _pressed, ...handle } = sortable.attributes;
  const moveByKey = (event: KeyboardEvent) => {
    const to = place + ({ ArrowUp: -1, ArrowDown: 1 }[event.key] ?? 0);
    if (to === place) return;
    event.preventDefault();
    if (to >= 0 && to < stage.steps.length) edit?.({ kind: 'move_step', stage: stage.id, step: step.id, place: to });
  };
  return (
    <li ref={setNodeRef} data-part={step.id} style={{ transform: CSS.Translate.toString(transform), transition }}>
      {edit && (
        <button
          type="button"
          className="handle"
          ref={sortable.setActivatorNodeRef}
          aria-label={`Move ${step.name}`}
          {...handle}
          {...sortable.listeners}
          onKeyDown={moveByKey}
        >
          <GripVertical aria-hidden />
        </button>
      )}
      <div>
        <b>
          {place + 1}. {step.name}
        </b>
        <span className="small muted">{[whoWords(step.who, nameOf), dueWords(step.due)].join(' · ')}</span>
        {edit && <RowButtons stage={stage} step={step} place={place} onOpen={onOpen} />}
      </div>
    </li>
  );
}

function RowButtons({ stage, step, onOpen }: RowProps) {
  const { edit } = useDesign();
  const duplicate = () => {
    const copy = { ...step, id: newKey(), name: freeStepName(stage.steps, step.name) };
    edit?.({ kind: 'put_step', stage: stage.id, step: copy });
  };
  const buttons = [
    { name: 'Edit', press: () => onOpen({ as: 'edit', step }) },
    { name: 'Duplicate', press: duplicate },
    { name: 'Copy to…', press: () => onOpen({ as: 'copy', step }) },
    { name: 'Remove', press: () => edit?.({ kind: 'remove_step', stage: stage.id, step: step.id }) },
  ];
  return (
    <span className="step-buttons">
      {buttons.map(({ name, press }) => (
        <Button key={name} variant="link" size="sm" aria-label={`${name} ${step.name}`} onClick={press}>
          {name}
        </Button>
      ))}
    </span>
  );
}
