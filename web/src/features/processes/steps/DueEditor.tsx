import type { GuidedStep, StepDue } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { NumberBox } from '../NumberBox.tsx';

interface DueEditorProps {
  readonly step: GuidedStep;
  readonly onChange: (step: GuidedStep) => void;
}

const USUAL = { counting: 'working', after: 'arrival' } as const;

/** By when a step is done: so many days after the deal arrived, or after the step before it. */
export function DueEditor({ step, onChange }: DueEditorProps) {
  const { due } = step;
  const put = (change: Partial<StepDue>) => due && onChange({ ...step, due: { ...due, ...change } });
  return (
    <div>
      <NumberBox
        id="step-due"
        label="Due after"
        unit="days"
        value={due?.days ?? null}
        min={0}
        max={3_650}
        onSave={(days) => onChange({ ...step, due: days === null ? null : { ...USUAL, ...due, days } })}
      />
      {due && (
        <div className="step-due-choices">
          <Form.Select
            aria-label="Counted in"
            value={due.counting}
            onChange={(event) => put({ counting: event.target.value === 'working' ? 'working' : 'calendar' })}
          >
            <option value="working">working days</option>
            <option value="calendar">all days</option>
          </Form.Select>
          <Form.Select
            aria-label="Counted from"
            value={due.after}
            onChange={(event) => put({ after: event.target.value === 'arrival' ? 'arrival' : 'step_before' })}
          >
            <option value="arrival">after arrival</option>
            <option value="step_before">after the last step</option>
          </Form.Select>
        </div>
      )}
    </div>
  );
}
