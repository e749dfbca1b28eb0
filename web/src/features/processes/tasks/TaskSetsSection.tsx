import { newTaskSet, type TaskSet } from '@ladder/core';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { AddLine } from '../../../parts/form/AddLine.tsx';
import { countOf } from '../../../parts/format.ts';
import { newKey } from '../../../parts/newKey.ts';
import { useDesign } from '../designContext.ts';
import { TaskSetDialog } from './TaskSetDialog.tsx';
import { usesOf } from './usesOf.ts';

/** The process's sets of tasks: designed once, and used on arrival, by results of steps, and by hand. */
export function TaskSetsSection() {
  const { document, edit } = useDesign();
  const [open, setOpen] = useState<TaskSet | null>(null);
  const put = (set: TaskSet) => edit?.({ kind: 'put_task_set', set });
  const add = (name: string) => {
    const set = newTaskSet(newKey(), name, { id: newKey(), title: '' });
    put(set);
    setOpen(set);
  };
  return (
    <section>
      <header>
        <h3>Sets of tasks</h3>
      </header>
      {document.taskSets.length === 0 && <p className="muted small">None yet.</p>}
      {document.taskSets.map((set) => (
        <div key={set.id} className="panel-item">
          <span>
            {set.name}
            <small className="muted d-block">
              {countOf(set.tasks.length, 'task')} · {usesOf(set.id, document).join(', ') || 'by hand only'}
            </small>
          </span>
          {edit && (
            <span>
              <Button variant="link" size="sm" aria-label={`Edit ${set.name}`} onClick={() => setOpen(set)}>
                Edit
              </Button>
              <Button
                variant="link"
                size="sm"
                aria-label={`Remove ${set.name}`}
                onClick={() => edit({ kind: 'remove_task_set', set: set.id })}
              >
                Remove
              </Button>
            </span>
          )}
        </div>
      ))}
      {edit && <AddLine label="New set of tasks" placeholder="New set" confirm="Add set" max={120} onAdd={add} />}
      {open && (
        <TaskSetDialog
          set={document.taskSets.find(({ id }) => id === open.id) ?? open}
          onSave={(set) => {
            put(set);
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      )}
    </section>
  );
}
