import type { Capture, GuidedStep } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useDesign } from '../designContext.ts';
import { shifted } from './shifted.ts';

interface CapturesEditorProps {
  readonly step: GuidedStep;
  readonly onChange: (step: GuidedStep) => void;
}

/** The fields that are filled in a step, in order. */
export function CapturesEditor({ step, onChange }: CapturesEditorProps) {
  const { catalogue } = useDesign();
  const { captures } = step;
  const put = (changed: readonly Capture[]) => onChange({ ...step, captures: changed });
  const nameOf = (field: string): string => catalogue.get(field)?.name ?? 'a field that is gone';
  const offered = [...catalogue.values()].filter(
    ({ id, holder, type }) => holder === 'deal' && type !== 'calculated' && !captures.some(({ field }) => field === id),
  );
  return (
    <fieldset className="step-parts">
      <legend className="form-label">Fields to fill in</legend>
      {captures.map(({ field, need }, place) => (
        <div key={field} className="step-part">
          <span>{nameOf(field)}</span>
          <Form.Select
            size="sm"
            aria-label={`Whether ${nameOf(field)} is needed`}
            value={need}
            onChange={(event) =>
              put(captures.map((one) => (one.field === field ? { field, need: needOf(event.target.value) } : one)))
            }
          >
            <option value="must">needed</option>
            <option value="may">if known</option>
          </Form.Select>
          <Button
            variant="link"
            size="sm"
            disabled={place === 0}
            aria-label={`${nameOf(field)} up`}
            onClick={() => put(shifted(captures, place, place - 1))}
          >
            Up
          </Button>
          <Button
            variant="link"
            size="sm"
            aria-label={`Leave ${nameOf(field)} out`}
            onClick={() => put(captures.filter((one) => one.field !== field))}
          >
            Remove
          </Button>
        </div>
      ))}
      <Form.Select
        size="sm"
        aria-label="Add a field to fill in"
        value=""
        onChange={(event) => put([...captures, { field: event.target.value, need: 'must' }])}
      >
        <option value="">Add a field…</option>
        <Options of={offered} />
      </Form.Select>
    </fieldset>
  );
}

const needOf = (text: string): Capture['need'] => (text === 'may' ? 'may' : 'must');
