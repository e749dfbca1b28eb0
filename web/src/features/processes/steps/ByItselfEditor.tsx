import { type GuidedStep, leadWords, MOST_WAIT_DAYS, type Stage } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useDesign } from '../designContext.ts';
import { NumberBox } from '../NumberBox.tsx';

interface ByItselfEditorProps {
  readonly step: GuidedStep;
  readonly stage: Stage;
  readonly onChange: (step: GuidedStep) => void;
}

/** Whether a step that nobody ends goes on by itself, after how long, and with which result. */
export function ByItselfEditor({ step, stage, onChange }: ByItselfEditorProps) {
  const { document } = useDesign();
  const { byItself, results } = step;
  const result = results.find(({ id }) => id === byItself?.result);
  const begin = (isOn: boolean) =>
    onChange({ ...step, byItself: isOn ? { days: 5, result: results.at(-1)?.id ?? '' } : null });
  return (
    <fieldset className="step-parts">
      <Form.Check
        id="step-by-itself"
        label="Goes on by itself where nobody ends it"
        checked={byItself !== null}
        onChange={(event) => begin(event.target.checked)}
      />
      {byItself && (
        <>
          <div className="panel-duo">
            <NumberBox
              id="step-wait"
              label="After"
              unit="days"
              value={byItself.days}
              min={1}
              max={MOST_WAIT_DAYS}
              onSave={(days) => onChange({ ...step, byItself: { ...byItself, days: days ?? 1 } })}
            />
            <Form.Group controlId="step-wait-result">
              <Form.Label>With the result</Form.Label>
              <Form.Select
                value={byItself.result}
                onChange={(event) => onChange({ ...step, byItself: { ...byItself, result: event.target.value } })}
              >
                {!result && <option value={byItself.result}>Choose…</option>}
                <Options of={results.map(({ id, name }) => ({ id, name: name || 'No name yet' }))} />
              </Form.Select>
            </Form.Group>
          </div>
          {result && (
            <p className="notice small mt-1 mb-0">
              Nobody is asked then: “{result.name}” is taken by the process, and what it leads to happens at once:{' '}
              {leadWords(document, stage, step.id, result)}
              {result.actions.length > 0 ? ', with its actions' : ''}.
            </p>
          )}
        </>
      )}
    </fieldset>
  );
}
