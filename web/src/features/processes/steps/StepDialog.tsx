import type { GuidedStep, Stage } from '@ladder/core';
import { checkDocument, dueWords, whoWords } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { DialogEnd } from '../../../parts/form/DialogEnd.tsx';
import { StepCard } from '../../steps/StepCard.tsx';
import { useDesign } from '../designContext.ts';
import { PartProblems } from '../PartProblems.tsx';
import { ByItselfEditor } from './ByItselfEditor.tsx';
import { CapturesEditor } from './CapturesEditor.tsx';
import { DueEditor } from './DueEditor.tsx';
import { ResultsEditor } from './ResultsEditor.tsx';
import { usePeopleNames } from './usePeopleNames.ts';
import { WhoEditor } from './WhoEditor.tsx';

interface StepDialogProps {
  readonly stage: Stage;
  readonly step: GuidedStep;
  readonly onSave: (step: GuidedStep) => void;
  readonly onClose: () => void;
}

/** One step: what is done, by whom, by when, what is filled in, and how it can end; beside it, as a seller sees it. */
export function StepDialog({ stage, step: before, onSave, onClose }: StepDialogProps) {
  const { document, catalogue } = useDesign();
  const nameOf = usePeopleNames();
  const [step, change] = useState(before);
  const [isAsked, setAsked] = useState(false);
  const edited: Stage = {
    ...stage,
    steps: stage.steps.some(({ id }) => id === step.id)
      ? stage.steps.map((one) => (one.id === step.id ? step : one))
      : [...stage.steps, step],
  };
  const place = document.stages.findIndex(({ id }) => id === stage.id);
  const stages = document.stages.map((one) => (one.id === stage.id ? edited : one));
  const at = `/stages/${place}/steps/${edited.steps.indexOf(step)}/`;
  const problems = checkDocument({ ...document, stages }, catalogue, () => undefined).filter(({ pointer }) =>
    pointer.startsWith(at),
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (problems.length === 0) onSave({ ...step, name: step.name.trim() });
  };
  return (
    <Modal show size="xl" onHide={onClose} centered aria-labelledby="step-title" dialogClassName="step-dialog">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id="step-title">Step of {stage.name}</h2>
        </Modal.Header>
        <Modal.Body className="step-form">
          <div>
            <StepWords step={step} onChange={change} />
            <div className="panel-duo">
              <WhoEditor step={step} onChange={change} />
              <DueEditor step={step} onChange={change} />
            </div>
            <CapturesEditor step={step} onChange={change} />
            <ResultsEditor step={step} stage={edited} onChange={change} />
            <ByItselfEditor step={step} stage={edited} onChange={change} />
            <Form.Check
              id="step-again"
              label="Done again after a return, whatever its result was"
              checked={step.afterReturn === 'again'}
              onChange={(event) => change({ ...step, afterReturn: event.target.checked ? 'again' : 'keep' })}
            />
            {isAsked && <PartProblems problems={problems} />}
          </div>
          <div>
            <h3>As a seller sees it</h3>
            <StepCard
              id="shown-step"
              process={{ ...document, stages }}
              stage={edited}
              step={step}
              about={whoWords(step.who, nameOf)}
              due={dueWords(step.due)}
              catalogue={catalogue}
              currency={document.currency}
              names={{}}
              values={{}}
              problems={{}}
              disabled
              onFill={() => undefined}
              onResult={() => undefined}
            />
          </div>
        </Modal.Body>
        <DialogEnd onCancel={onClose}>
          <Button type="submit">Keep it</Button>
        </DialogEnd>
      </Form>
    </Modal>
  );
}

interface PartProps {
  readonly step: GuidedStep;
  readonly onChange: (step: GuidedStep) => void;
}

function StepWords({ step, onChange }: PartProps) {
  return (
    <>
      <Form.Group controlId="step-name" className="mb-2">
        <Form.Label>Name</Form.Label>
        <Form.Control
          value={step.name}
          maxLength={120}
          onChange={(event) => onChange({ ...step, name: event.target.value })}
        />
      </Form.Group>
      <Form.Group controlId="step-instruction" className="mb-2">
        <Form.Label>What to do, in Markdown: **strong**, *stressed*, - a list</Form.Label>
        <Form.Control
          as="textarea"
          rows={4}
          value={step.instruction}
          maxLength={10_000}
          onChange={(event) => onChange({ ...step, instruction: event.target.value })}
        />
      </Form.Group>
    </>
  );
}
