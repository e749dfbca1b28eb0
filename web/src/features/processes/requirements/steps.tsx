import type { Requirement } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useDesign } from '../designContext.ts';
import type { EditorProps, RequirementEditor } from './editor.ts';

type Asked = Extract<Requirement, { kind: 'steps' }>;

function Editor({ requirement, onChange }: EditorProps<Asked>) {
  const stages = useDesign().document.stages.filter(({ steps }) => steps.length > 0);
  return (
    <Form.Group controlId="requirement-stage">
      <Form.Label>Whose steps</Form.Label>
      <Form.Select value={requirement.of} onChange={(event) => onChange({ ...requirement, of: event.target.value })}>
        <option value="">{stages.length > 0 ? 'Choose…' : 'No stage has steps yet'}</option>
        <Options of={stages} />
      </Form.Select>
    </Form.Group>
  );
}

export const stepsEditor: RequirementEditor<Asked> = {
  kind: 'steps',
  label: 'A stage’s steps are finished',
  binds: 'at_move',
  start: () => ({ kind: 'steps', of: '' }),
  Editor,
};
