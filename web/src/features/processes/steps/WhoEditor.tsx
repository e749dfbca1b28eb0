import { type GuidedStep, STEP_ROLES, STEP_WHO, type StepRole, type StepWho } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useGetPeopleQuery } from '../../session/sessionApi.ts';

interface WhoEditorProps {
  readonly step: GuidedStep;
  readonly onChange: (step: GuidedStep) => void;
}

const NAMES: Readonly<Record<StepWho['by'], string>> = {
  owner: 'the deal’s owner',
  bringer: 'whoever brought the deal here',
  person: 'a named person',
  role: 'anyone of a role in the team',
};
const ROLE_NAMES: Readonly<Record<StepRole, string>> = { seller: 'a seller', manager: 'a manager' };

function startingWho(by: StepWho['by']): StepWho {
  switch (by) {
    case 'owner':
    case 'bringer':
      return { by };
    case 'person':
      return { by, person: '' };
    case 'role':
      return { by, role: 'manager' };
  }
}

/** Who does a step. */
export function WhoEditor({ step, onChange }: WhoEditorProps) {
  const { who } = step;
  const { data: people } = useGetPeopleQuery();
  return (
    <Form.Group controlId="step-who">
      <Form.Label>Who does it</Form.Label>
      <Form.Select
        value={who.by}
        onChange={(event) => onChange({ ...step, who: startingWho(event.target.value as StepWho['by']) })}
      >
        <Options of={STEP_WHO.map((id) => ({ id, name: NAMES[id] }))} />
      </Form.Select>
      {who.by === 'person' && (
        <Form.Select
          className="mt-1"
          aria-label="Which person"
          value={who.person}
          onChange={(event) => onChange({ ...step, who: { by: 'person', person: event.target.value } })}
        >
          <option value="">Choose…</option>
          <Options of={people?.items ?? []} />
        </Form.Select>
      )}
      {who.by === 'role' && (
        <Form.Select
          className="mt-1"
          aria-label="Which role"
          value={who.role}
          onChange={(event) => onChange({ ...step, who: { by: 'role', role: event.target.value as StepRole } })}
        >
          <Options of={STEP_ROLES.map((id) => ({ id, name: ROLE_NAMES[id] }))} />
        </Form.Select>
      )}
    </Form.Group>
  );
}
