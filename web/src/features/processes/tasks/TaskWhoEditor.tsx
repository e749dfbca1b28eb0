import { TASK_WHO, type TaskWho } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useGetPeopleQuery } from '../../session/sessionApi.ts';

interface TaskWhoEditorProps {
  readonly who: TaskWho;
  readonly place: number;
  readonly onChange: (who: TaskWho) => void;
}

const NAMES: Readonly<Record<TaskWho['by'], string>> = {
  owner: 'the deal’s owner',
  person: 'a named person',
  nobody: 'nobody, until taken',
};

/** To whom a task of a set falls. */
export function TaskWhoEditor({ who, place, onChange }: TaskWhoEditorProps) {
  const { data: people } = useGetPeopleQuery();
  return (
    <div>
      <Form.Label htmlFor={`set-who-${place}`}>Who does it</Form.Label>
      <Form.Select
        id={`set-who-${place}`}
        value={who.by}
        onChange={(event) => {
          const by = event.target.value as TaskWho['by'];
          onChange(by === 'person' ? { by, person: '' } : { by });
        }}
      >
        <Options of={TASK_WHO.map((id) => ({ id, name: NAMES[id] }))} />
      </Form.Select>
      {who.by === 'person' && (
        <Form.Select
          className="mt-1"
          aria-label={`Which person does task ${place + 1}`}
          value={who.person}
          onChange={(event) => onChange({ by: 'person', person: event.target.value })}
        >
          <option value="">Choose…</option>
          <Options of={people?.items ?? []} />
        </Form.Select>
      )}
    </div>
  );
}
