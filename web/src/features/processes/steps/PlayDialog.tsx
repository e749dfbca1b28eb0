import {
  dueWords,
  type FactValue,
  leadOf,
  leadWords,
  type Stage,
  type StepResult,
  type Values,
  whoWords,
} from '@ladder/core';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { StepCard } from '../../steps/StepCard.tsx';
import { useDesign } from '../designContext.ts';
import { usePeopleNames } from './usePeopleNames.ts';

interface Played {
  readonly step: string;
  readonly name: string;
  readonly result: string;
}

/** Plays a stage's steps as a seller will see them, with made-up values and without a deal. */
export function PlayDialog({ stage, onClose }: { stage: Stage; onClose: () => void }) {
  const { document, catalogue } = useDesign();
  const nameOf = usePeopleNames();
  const [first] = stage.steps;
  const [at, setAt] = useState<string | null>(first?.id ?? null);
  const [done, setDone] = useState<readonly Played[]>([]);
  const [end, setEnd] = useState<string | null>(null);
  const [values, setValues] = useState<Values>({});
  const [problems, setProblems] = useState<Readonly<Record<string, string>>>({});
  const step = stage.steps.find(({ id }) => id === at);
  const begin = () => {
    setAt(first?.id ?? null);
    setDone([]);
    setEnd(null);
    setValues({});
    setProblems({});
  };
  const fill = (field: string, value: FactValue) => {
    setValues({ ...values, [field]: value });
    setProblems({});
  };
  const choose = (result: StepResult) => {
    if (!step) return;
    const empty =
      result.captures === 'asked'
        ? step.captures.filter(({ field, need }) => need === 'must' && (values[field] ?? null) === null)
        : [];
    setProblems(Object.fromEntries(empty.map(({ field }) => [field, 'Needed for this result.'])));
    if (empty.length > 0) return;
    const lead = leadOf(stage.steps, step.id, result);
    setDone([...done, { step: step.id, name: step.name, result: result.name }]);
    setAt(lead.to === 'step' ? lead.step.id : null);
    setEnd(lead.to === 'step' ? null : leadWords(document, stage, step.id, result));
  };
  return (
    <Modal show size="lg" onHide={onClose} centered aria-labelledby="play-title">
      <Modal.Header closeButton>
        <h2 id="play-title">Steps of {stage.name}, as a seller sees them</h2>
      </Modal.Header>
      <Modal.Body>
        {done.length > 0 && (
          <ul className="thread">
            {done.map(({ name, result }, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a step may be done again, and the list only grows
              <li key={place}>
                ✓ {name}: {result}
              </li>
            ))}
          </ul>
        )}
        {step && (
          <StepCard
            key={`${step.id} ${done.length}`}
            id="played-step"
            process={document}
            stage={stage}
            step={step}
            about={whoWords(step.who, nameOf)}
            due={dueWords(step.due)}
            catalogue={catalogue}
            currency={document.currency}
            names={{}}
            values={values}
            problems={problems}
            disabled={false}
            onFill={fill}
            onResult={choose}
          />
        )}
        {end && <p role="status">That is the last of it: this {end}.</p>}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={begin}>
          Begin again
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Modal.Footer>
    </Modal>
  );
}
