import { checkDocument, LONGEST_TITLE, MOST_SET_TASKS, newSetTask, type SetTask, type TaskSet } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { DialogEnd } from '../../../parts/form/DialogEnd.tsx';
import { newKey } from '../../../parts/newKey.ts';
import { useDesign } from '../designContext.ts';
import { NumberBox } from '../NumberBox.tsx';
import { PartProblems } from '../PartProblems.tsx';
import { shifted } from '../steps/shifted.ts';
import { TaskWhoEditor } from './TaskWhoEditor.tsx';

interface TaskSetDialogProps {
  readonly set: TaskSet;
  readonly onSave: (set: TaskSet) => void;
  readonly onClose: () => void;
}

/** One set: its name, and each task with whose it is and when it is due. */
export function TaskSetDialog({ set: before, onSave, onClose }: TaskSetDialogProps) {
  const { document, catalogue } = useDesign();
  const [set, change] = useState(before);
  const [isAsked, setAsked] = useState(false);
  const taskSets = document.taskSets.map((one) => (one.id === set.id ? set : one));
  const at = `/taskSets/${taskSets.indexOf(set)}/`;
  const problems = checkDocument({ ...document, taskSets }, catalogue, () => undefined).filter(({ pointer }) =>
    pointer.startsWith(at),
  );
  const put = (tasks: readonly SetTask[]) => change({ ...set, tasks });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (problems.length === 0) onSave({ ...set, name: set.name.trim() });
  };
  return (
    <Modal show size="xl" onHide={onClose} centered aria-labelledby="set-title">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <h2 id="set-title">Set of tasks</h2>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="set-name" className="mb-2">
            <Form.Label>Name</Form.Label>
            <Form.Control
              value={set.name}
              maxLength={120}
              onChange={(event) => change({ ...set, name: event.target.value })}
            />
          </Form.Group>
          <ol className="set-tasks">
            {set.tasks.map((task, place) => (
              <SetTaskRow key={task.id} task={task} place={place} tasks={set.tasks} onChange={put} />
            ))}
          </ol>
          {set.tasks.length < MOST_SET_TASKS && (
            <Button
              variant="outline-secondary"
              size="sm"
              onClick={() => put([...set.tasks, newSetTask({ id: newKey(), title: '' })])}
            >
              Add a task
            </Button>
          )}
          <Form.Check
            id="set-again"
            className="mt-3"
            label="Made again where a deal that came back, or was reopened, arrives anew, or a step ends anew"
            checked={set.afterReturn === 'again'}
            onChange={(event) => change({ ...set, afterReturn: event.target.checked ? 'again' : 'keep' })}
          />
          {isAsked && <PartProblems problems={problems} />}
        </Modal.Body>
        <DialogEnd onCancel={onClose}>
          <Button type="submit">Keep it</Button>
        </DialogEnd>
      </Form>
    </Modal>
  );
}

interface SetTaskRowProps {
  readonly task: SetTask;
  readonly place: number;
  readonly tasks: readonly SetTask[];
  readonly onChange: (tasks: readonly SetTask[]) => void;
}

function SetTaskRow({ task, place, tasks, onChange }: SetTaskRowProps) {
  const put = (changed: Partial<SetTask>) => onChange(tasks.with(place, { ...task, ...changed }));
  const name = task.title || `task ${place + 1}`;
  return (
    <li>
      <Form.Group controlId={`set-title-${task.id}`}>
        <Form.Label>Task {place + 1}</Form.Label>
        <Form.Control
          placeholder="What is to be done"
          maxLength={LONGEST_TITLE}
          value={task.title}
          onChange={(event) => put({ title: event.target.value })}
        />
      </Form.Group>
      <TaskWhoEditor who={task.who} place={place} onChange={(who) => put({ who })} />
      <NumberBox
        id={`set-due-${task.id}`}
        label="Due after"
        value={task.due.days}
        min={0}
        max={3_650}
        onSave={(days) => put({ due: { ...task.due, days: days ?? 0 } })}
      />
      <Form.Select
        aria-label={`Days of task ${place + 1} are counted in`}
        value={task.due.counting}
        onChange={(event) =>
          put({ due: { ...task.due, counting: event.target.value === 'working' ? 'working' : 'calendar' } })
        }
      >
        <option value="working">working days</option>
        <option value="calendar">all days</option>
      </Form.Select>
      <span>
        <Button
          variant="link"
          size="sm"
          disabled={place === 0}
          aria-label={`Move ${name} up`}
          onClick={() => onChange(shifted(tasks, place, place - 1))}
        >
          Up
        </Button>
        <Button
          variant="link"
          size="sm"
          aria-label={`Remove ${name}`}
          onClick={() => onChange(tasks.toSpliced(place, 1))}
        >
          Remove
        </Button>
      </span>
    </li>
  );
}
