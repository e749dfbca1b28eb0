import { MOST_ARRIVALS, type Stage, taskSetOf } from '@ladder/core';
import { Button, Form } from 'react-bootstrap';
import { Options } from '../../../parts/Options.tsx';
import { useDesign } from '../designContext.ts';

/** What happens as a deal arrives in a stage. */
export function ArrivalSection({ stage }: { stage: Stage }) {
  const { document, edit } = useDesign();
  const { arrival } = stage;
  const put = (sets: readonly string[]) =>
    edit?.({ kind: 'set_arrival', stage: stage.id, arrival: sets.map((set) => ({ do: 'add_tasks', set })) });
  const used = arrival.map(({ set }) => set);
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
                onClick={() => put(used.filter((one) => one !== set))}
              >
                Remove
              </Button>
            )}
          </div>
        );
      })}
      {edit && free.length > 0 && used.length < MOST_ARRIVALS && (
        <Form.Select
          size="sm"
          aria-label="Use a set of tasks on arrival"
          value=""
          onChange={(event) => put([...used, event.target.value])}
        >
          <option value="">Use a set of tasks…</option>
          <Options of={free} />
        </Form.Select>
      )}
    </section>
  );
}
