import { LONGEST_TITLE, readTaskLine } from '@ladder/core';
import { type FormEvent, useState } from 'react';
import { Button, Dropdown, Form } from 'react-bootstrap';
import { problemOf } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { shortDay } from '../../parts/format.ts';
import type { DealDetail } from './dealsApi.ts';
import { useAddTaskMutation, useAddTaskSetMutation } from './tasksApi.ts';

/** A task as it is written: a line, which may end with its day and time; or one of the process's sets. */
export function NewTask({ deal }: { deal: DealDetail }) {
  const { person, organisation } = useSession();
  const [line, setLine] = useState('');
  const [addTask, adding] = useAddTaskMutation();
  const [addSet, addingSet] = useAddTaskSetMutation();
  const read = readTaskLine(line, organisation.today);
  const isWritten = line.trim() !== '';
  const add = async (event: FormEvent) => {
    event.preventDefault();
    if (!read.ok) return;
    const { title, dueDay, dueTime } = read.value;
    const body = { title, dueDay, assignee: person.id, ...(dueTime ? { dueTime } : {}) };
    const answer = await addTask({ deal: deal.id, body });
    if (!answer.error) setLine('');
  };
  const failure = problemOf(adding.error ?? addingSet.error);
  const wrong =
    isWritten && !read.ok && read.error.code === 'no_such_day' ? `There is no ${read.error.text}.` : undefined;
  const sets = deal.status.state === 'open' ? deal.document.taskSets : [];
  return (
    <Form className="new-task" onSubmit={add}>
      <Form.Control
        size="sm"
        id={`new-task-${deal.id}`}
        aria-label="New task"
        placeholder="Ring the surveyor tomorrow 14:00"
        autoComplete="off"
        maxLength={LONGEST_TITLE}
        value={line}
        isInvalid={Boolean(wrong ?? failure)}
        onChange={(event) => setLine(event.target.value)}
      />
      <Button type="submit" size="sm" variant="outline-secondary" disabled={!read.ok || adding.isLoading}>
        Add task
      </Button>
      {sets.length > 0 && (
        <Dropdown align="end">
          <Dropdown.Toggle size="sm" variant="outline-secondary" disabled={addingSet.isLoading}>
            A set
          </Dropdown.Toggle>
          <Dropdown.Menu>
            {sets.map(({ id, name, tasks }) => (
              <Dropdown.Item key={id} onClick={() => addSet({ deal: deal.id, set: id })}>
                {name} <span className="muted">({tasks.length})</span>
              </Dropdown.Item>
            ))}
          </Dropdown.Menu>
        </Dropdown>
      )}
      <small role="status" className={wrong || failure ? 'text-held' : 'muted'}>
        {wrong ??
          failure?.errors?.[0]?.detail ??
          failure?.detail ??
          (isWritten && read.ok
            ? `“${read.value.title}”, due ${read.value.dueDay === organisation.today ? 'today' : shortDay(read.value.dueDay, organisation.today)}${read.value.dueTime ? ` at ${read.value.dueTime}` : ''}, for you`
            : 'End the line with a day and a time, if you like: “Friday”, “in 2 weeks”, “3 December 14:00”.')}
      </small>
    </Form>
  );
}
