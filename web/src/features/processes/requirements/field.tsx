import type { Requirement } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { useDesign } from '../designContext.ts';
import type { EditorProps, RequirementEditor } from './editor.ts';

type Asked = Extract<Requirement, { kind: 'field' }>;

function Editor({ requirement, onChange }: EditorProps<Asked>) {
  const { catalogue } = useDesign();
  return (
    <Form.Group controlId="requirement-field">
      <Form.Label>Field</Form.Label>
      <Form.Select
        value={requirement.field}
        onChange={(event) => onChange({ ...requirement, field: event.target.value })}
      >
        <option value="">Choose…</option>
        {[...catalogue.values()].map(({ id, name, holder }) => (
          <option key={id} value={id}>
            {name}
            {holder === 'deal' ? '' : ` (${holder})`}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

export const fieldEditor: RequirementEditor<Asked> = {
  kind: 'field',
  label: 'A field is filled',
  binds: 'must_stay',
  start: () => ({ kind: 'field', field: '' }),
  Editor,
};
