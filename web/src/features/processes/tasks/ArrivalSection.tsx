import { MOST_ARRIVALS, type Stage, taskSetOf } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useDesign } from '../designContext.ts';
import { MessageAction } from '../steps/MessageAction.tsx';

/** What happens as a deal arrives in a stage. */
export function ArrivalSection({ stage }: { stage: Stage }) {
  const { document, edit } = useDesign();
  const { arrival } = stage;
  const put = (next: Stage['arrival']) => edit?.({ kind: 'set_arrival', stage: stage.id, arrival: next });
  const used = arrival.flatMap((one) => (one.do === 'add_tasks' ? [one.set] : []));
  const messages = arrival.filter((one) => one.do === 'message');
  const free = document.taskSets.filter(({ id }) => !used.includes(id));
  return (
    <section>
      <header>
        <h3>On arrival</h3>
      </header>
      {arrival.length === 0 && (
        <p className="muted small">
          {document.taskSets.length === 0
            ? 'Sets of tasks are made beside the rules and reasons.'
            : 'No tasks are made.'}
        </p>
      )}
      {used.map((set) => {
        const name = taskSetOf(document, set)?.name;
        return (
          <div key={set} className="panel-item">
            <span className={name === undefined ? 'text-held' : ''}>
              {name === undefined ? 'A set of tasks that is gone' : `Tasks of “${name}”`}
            </span>
            {edit && (
              <Button
                variant="link"
                size="sm"
                aria-label={`No longer use ${name ?? 'it'}`}
                onClick={() => put(arrival.filter((one) => one.do !== 'add_tasks' || one.set !== set))}
              >
                Remove
              </Button>
            )}
          </div>
        );
      })}
      {messages.map((message) => (
        <div key={message.template} className="panel-item">
          <MessageAction
            action={message}
            onChange={(changed) => put(arrival.map((one) => (one === message ? changed : one)))}
          />
          {edit && (
            <Button
              variant="link"
              size="sm"
              aria-label="No longer prepare this message"
              onClick={() => put(arrival.filter((one) => one !== message))}
            >
              Remove
            </Button>
          )}
        </div>
      ))}
      {edit && arrival.length < MOST_ARRIVALS && !messages.some(({ template }) => template === '') && (
        <Button
          variant="link"
          size="sm"
          className="p-0 mb-1"
          onClick={() => put([...arrival, { do: 'message', template: '', how: 'to_confirm' }])}
        >
          Prepare a message
        </Button>
      )}
      {edit && free.length > 0 && arrival.length < MOST_ARRIVALS && (
        <Form.Select
          size="sm"
          aria-label="Use a set of tasks on arrival"
          value=""
          onChange={(event) => put([...arrival, { do: 'add_tasks', set: event.target.value }])}
        >
          <option value="">Use a set of tasks…</option>
          <Options of={free} />
        </Form.Select>
      )}
    </section>
  );
}
