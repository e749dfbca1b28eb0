import { type MessageAction as Action, MESSAGE_HOWS } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { useParams } from 'react-router';
import { Options } from '../../../parts/Options.tsx';
import { useListTemplatesQuery } from '../../messages/messagesApi.ts';

interface MessageActionProps {
  readonly action: Action;
  readonly onChange: (action: Action) => void;
}

const HOW_NAMES = { to_confirm: 'for someone to confirm', at_once: 'and send it at once' };

/** Which message is prepared, and whether somebody looks at it before it goes. */
export function MessageAction({ action, onChange }: MessageActionProps) {
  const { process } = useParams();
  const { data } = useListTemplatesQuery();
  const offered = data?.items.filter((template) => template.process === null || template.process.id === process);
  return (
    <div className="step-set">
      <Form.Select
        size="sm"
        aria-label="Which message is prepared"
        value={action.template}
        onChange={(event) => onChange({ ...action, template: event.target.value })}
      >
        <option value="">{offered?.length === 0 ? 'No template yet: they are made in Settings' : 'Prepare…'}</option>
        <Options of={offered ?? []} />
      </Form.Select>
      <Form.Select
        size="sm"
        aria-label="How it is sent"
        value={action.how}
        onChange={(event) => onChange({ ...action, how: event.target.value as Action['how'] })}
      >
        <Options of={MESSAGE_HOWS.map((id) => ({ id, name: HOW_NAMES[id] }))} />
      </Form.Select>
    </div>
  );
}
