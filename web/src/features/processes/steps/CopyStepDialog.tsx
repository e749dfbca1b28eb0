import type { GuidedStep, Stage } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { newKey, useDesign } from '../designContext.ts';
import { freeStepName } from './stepWords.ts';

interface CopyStepDialogProps {
  readonly stage: Stage;
  readonly step: GuidedStep;
  readonly onClose: () => void;
}

/** Copies a step into another stage. Results that lead to steps or stages go to the next step there, for those are not copied. */
export function CopyStepDialog({ stage, step, onClose }: CopyStepDialogProps) {
  const { document, edit } = useDesign();
  const others = document.stages.filter(({ id }) => id !== stage.id);
  const [chosen, setChosen] = useState<string>(others[0]?.id ?? '');
  const target = others.find(({ id }) => id === chosen);
  const copy = (event: FormEvent) => {
    event.preventDefault();
    if (!target) return;
    const results = step.results.map((result) => {
      const { leads } = result;
      const isOfStage = leads.to === 'step' || (leads.to === 'stage' && leads.stage === target.id);
      return isOfStage ? { ...result, leads: { to: 'next' } as const } : result;
    });
    edit?.({
      kind: 'put_step',
      stage: target.id,
      step: { ...step, results, id: newKey(), name: freeStepName(target.steps, step.name) },
    });
    onClose();
  };
  return (
    <Modal show onHide={onClose} centered aria-labelledby="copy-step-title">
      <Form onSubmit={copy}>
        <Modal.Header closeButton>
          <h2 id="copy-step-title">Copy “{step.name}”</h2>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="copy-step-stage">
            <Form.Label>Into which stage</Form.Label>
            <Form.Select value={chosen} onChange={(event) => setChosen(event.target.value)}>
              <Options of={others} />
            </Form.Select>
          </Form.Group>
          <p className="small muted mt-2 mb-0">Results that lead to another step lead to the next step there.</p>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={!target}>
            Copy it
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
