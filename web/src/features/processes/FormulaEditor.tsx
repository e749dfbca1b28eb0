import type { FieldHolder, FieldType, Formula } from '@ladder/core';
import { useState } from 'react';
import { Button, Form, InputGroup } from 'react-bootstrap';
import { newKey, useDesign } from './designContext.ts';
import { type FormulaStep, formulaOf, OPERATIONS, type Operation } from './formulaSteps.ts';

const WORDS: Readonly<Record<Operation, string>> = {
  add: 'plus',
  subtract: 'less',
  multiply: 'times',
  divide: 'divided by',
};

interface FormulaEditorProps {
  /** A formula reads the record it belongs to, and no other. */
  readonly holder: FieldHolder;
  readonly problem?: string | undefined;
  readonly onChange: (formula: Formula | null) => void;
}

const newStep = (operation: Operation): FormulaStep => ({ id: newKey(), operation, operand: '', number: '' });

/** Arithmetic over number and money fields, one step a line. */
export function FormulaEditor({ holder, problem, onChange }: FormulaEditorProps) {
  const [steps, setSteps] = useState<readonly FormulaStep[]>([newStep('add'), newStep('divide')]);
  const put = (next: readonly FormulaStep[]) => {
    setSteps(next);
    onChange(formulaOf(next));
  };
  const change = (id: string, part: Partial<FormulaStep>) =>
    put(steps.map((step) => (step.id === id ? { ...step, ...part } : step)));
  return (
    <fieldset>
      <legend className="form-label">Worked out step by step</legend>
      {steps.map((step, place) => (
        <StepRow
          key={step.id}
          step={step}
          holder={holder}
          place={place}
          onChange={(part) => change(step.id, part)}
          onRemove={() => put(steps.filter(({ id }) => id !== step.id))}
        />
      ))}
      <Button variant="link" onClick={() => put([...steps, newStep('multiply')])}>
        Another step
      </Button>
      {problem && (
        <div className="text-held small" role="alert">
          {formulaOf(steps) ? problem : 'Choose a field or give a number in every step.'}
        </div>
      )}
      <p className="muted small mb-0">Money counts in whole units. Empty while a field it reads is empty.</p>
    </fieldset>
  );
}

const isReckonable = (type: FieldType): boolean => type === 'number' || type === 'money' || type === 'calculated';

function StepRow({
  step,
  holder,
  place,
  onChange,
  onRemove,
}: {
  step: FormulaStep;
  holder: FieldHolder;
  place: number;
  onChange: (part: Partial<FormulaStep>) => void;
  onRemove: () => void;
}) {
  const { catalogue } = useDesign();
  const fields = [...catalogue.values()].filter((field) => field.holder === holder && isReckonable(field.type));
  return (
    <InputGroup size="sm" className="mb-1">
      {place > 0 && (
        <Form.Select
          aria-label={`Operation of step ${place + 1}`}
          className="formula-operation"
          value={step.operation}
          onChange={(event) => onChange({ operation: OPERATIONS.find((one) => one === event.target.value) ?? 'add' })}
        >
          {OPERATIONS.map((one) => (
            <option key={one} value={one}>
              {WORDS[one]}
            </option>
          ))}
        </Form.Select>
      )}
      <Form.Select
        aria-label={`What step ${place + 1} takes`}
        value={step.operand}
        onChange={(event) => onChange({ operand: event.target.value })}
      >
        <option value="">Choose…</option>
        {fields.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
        <option value="number">a number</option>
      </Form.Select>
      {step.operand === 'number' && (
        <Form.Control
          aria-label={`Number of step ${place + 1}`}
          inputMode="decimal"
          value={step.number}
          onChange={(event) => onChange({ number: event.target.value })}
        />
      )}
      {place > 0 && (
        <Button variant="outline-secondary" aria-label={`Leave out step ${place + 1}`} onClick={onRemove}>
          ✕
        </Button>
      )}
    </InputGroup>
  );
}
