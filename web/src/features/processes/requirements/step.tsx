import type { Requirement } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { useDesign } from '../designContext.ts';
import type { EditorProps, RequirementEditor } from './editor.ts';

type Asked = Extract<Requirement, { kind: 'step' }>;

function Editor({ requirement, onChange }: EditorProps<Asked>) {
  const stages = useDesign().document.stages.filter(({ steps }) => steps.length > 0);
  const step = stages.flatMap(({ steps }) => steps).find(({ id }) => id === requirement.step);
  return (
    <>
      <Form.Group controlId="requirement-step" className="mb-2">
        <Form.Label>Step</Form.Label>
        <Form.Select
          value={requirement.step}
          onChange={(event) => onChange({ ...requirement, step: event.target.value, results: [] })}
        >
          <option value="">{stages.length > 0 ? 'Choose…' : 'No stage has steps yet'}</option>
          {stages.map(({ id, name, steps }) => (
            <optgroup key={id} label={name}>
              {steps.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </optgroup>
          ))}
        </Form.Select>
      </Form.Group>
      {step && (
        <fieldset className="choice-row">
          <legend className="form-label">Ended with one of</legend>
          {step.results.map(({ id, name }) => (
            <Form.Check
              inline
              key={id}
              id={`requirement-result-${id}`}
              label={name}
              checked={requirement.results.includes(id)}
              onChange={(event) =>
                onChange({
                  ...requirement,
                  results: step.results.flatMap((one) =>
                    (one.id === id ? event.target.checked : requirement.results.includes(one.id)) ? [one.id] : [],
                  ),
                })
              }
            />
          ))}
        </fieldset>
      )}
    </>
  );
}

export const stepEditor: RequirementEditor<Asked> = {
  kind: 'step',
  label: 'A step ended so',
  binds: 'at_move',
  start: () => ({ kind: 'step', step: '', results: [] }),
  Editor,
};
