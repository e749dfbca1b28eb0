import { ACTIVITY_KINDS, ACTIVITY_WORDS, type ActivityKind, type ActivitySpan, type Requirement } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { NumberBox } from '../NumberBox.tsx';
import type { EditorProps, RequirementEditor } from './editor.ts';

type Asked = Extract<Requirement, { kind: 'activities' }>;

function Editor({ requirement, onChange }: EditorProps<Asked>) {
  return (
    <div className="panel-duo">
      <NumberBox
        id="requirement-least"
        label="At least"
        unit="times"
        value={requirement.least}
        min={1}
        max={1_000}
        onSave={(least) => onChange({ ...requirement, least: least ?? 1 })}
      />
      <Form.Group controlId="requirement-activity">
        <Form.Label>What was done</Form.Label>
        <Form.Select
          value={requirement.activity}
          onChange={(event) => onChange({ ...requirement, activity: event.target.value as ActivityKind })}
        >
          <Options of={ACTIVITY_KINDS.map((id) => ({ id, name: ACTIVITY_WORDS[id].one }))} />
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="requirement-within">
        <Form.Label>Counted</Form.Label>
        <Form.Select
          value={requirement.within}
          onChange={(event) => onChange({ ...requirement, within: event.target.value as ActivitySpan })}
        >
          <option value="stay">in the present stay in a stage</option>
          <option value="ever">since the deal began</option>
        </Form.Select>
      </Form.Group>
    </div>
  );
}

export const activitiesEditor: RequirementEditor<Asked> = {
  kind: 'activities',
  label: 'Something was done',
  binds: 'at_move',
  start: () => ({ kind: 'activities', activity: 'call', least: 1, within: 'stay' }),
  Editor,
};
