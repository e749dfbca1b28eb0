import type { FieldHolder, FieldType, Formula } from '@ladder/core';
import { useState } from 'react';
import { Button, Form, InputGroup } from 'react-bootstrap';
import { Options } from '../../parts/Options.tsx';
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

interface StepRowProps {
  readonly step: FormulaStep;
  readonly holder: FieldHolder;
  readonly place: number;
  readonly onChange: (part: Partial<FormulaStep>) => void;
  readonly onRemove: () => void;
}

function StepRow({ step, holder, place, onChange, onRemove }: StepRowProps) {
  const number = place + 1;
  return (
    <InputGroup size="sm" className="mb-1">
      {place > 0 && <OperationChoice step={step} number={number} onChange={onChange} />}
      <OperandChoice step={step} holder={holder} number={number} onChange={onChange} />
      {step.operand === 'number' && (
        <Form.Control
          aria-label={`Number of step ${number}`}
          inputMode="decimal"
          value={step.number}
          onChange={(event) => onChange({ number: event.target.value })}
        />
      )}
      {place > 0 && (
        <Button variant="outline-secondary" aria-label={`Leave out step ${number}`} onClick={onRemove}>
          ✕
        </Button>
      )}
    </InputGroup>
  );
}

type ChoiceProps = Pick<StepRowProps, 'step' | 'onChange'> & { readonly number: number };

function OperationChoice({ step, number, onChange }: ChoiceProps) {
  return (
    <Form.Select
      aria-label={`Operation of step ${number}`}
      className="formula-operation"
      value={step.operation}
      onChange={(event) => onChange({ operation: OPERATIONS.find((one) => one === event.target.value) ?? 'add' })}
    >
      <Options of={OPERATIONS.map((id) => ({ id, name: WORDS[id] }))} />
    </Form.Select>
  );
}

function OperandChoice({ step, holder, number, onChange }: ChoiceProps & Pick<StepRowProps, 'holder'>) {
  const { catalogue } = useDesign();
  const fields = [...catalogue.values()].filter((field) => field.holder === holder && isReckonable(field.type));
  return (
    <Form.Select
      aria-label={`What step ${number} takes`}
      value={step.operand}
      onChange={(event) => onChange({ operand: event.target.value })}
    >
      <option value="">Choose…</option>
      <Options of={fields} />
      <option value="number">a number</option>
    </Form.Select>
  );
}
