import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { PassTaskDialog } from '../deals/PassDialog.tsx';
import { PutTaskOffDialog } from '../deals/PutTaskOffDialog.tsx';
import { TaskDue } from '../deals/TaskDue.tsx';
import { type Task, useEndTaskMutation, useReopenTaskMutation } from '../deals/tasksApi.ts';
import type { WorkProps } from './MainWork.tsx';

type Asking = 'put_off' | 'pass' | null;

/** A task at hand: done, put off, or passed on. */
export function TaskWork({ deal, task, undo, onDone }: WorkProps & { readonly task: Task }) {
  const [end, { error, isLoading }] = useEndTaskMutation();
  const [reopen] = useReopenTaskMutation();
  const [asking, setAsking] = useState<Asking>(null);
  const of = { deal: deal.id, task: task.seq };
  const done = async () => {
    const answer = await end({ ...of, how: 'done' });
    if (answer.error) return;
    undo.offer(`${task.title}: done`, () => reopen(of));
    onDone();
  };
  const close = () => setAsking(null);
  return (
    <div className="day-main">
      <header>
        <h3>{task.title || 'A task whose words were erased'}</h3>
        <span className="day-due">
          <TaskDue task={task} />
        </span>
      </header>
      <p className="small muted mb-0">
        {[task.person?.name ?? 'nobody’s yet', task.set && `of “${task.set}”`].filter((part) => part).join(' · ')}
      </p>
      {deal.may.change && (
        <div className="day-acts">
          <Button data-act="done" disabled={isLoading} onClick={done}>
            Done and next <kbd aria-hidden>D</kbd>
          </Button>
          <Button data-act="later" variant="outline-secondary" onClick={() => setAsking('put_off')}>
            Later… <kbd aria-hidden>L</kbd>
          </Button>
          <Button variant="outline-secondary" onClick={() => setAsking('pass')}>
            {task.person === null ? 'Take or pass on…' : 'Pass on…'}
          </Button>
        </div>
      )}
      <ErrorNotice error={error} />
      {asking === 'put_off' && <PutTaskOffDialog deal={deal.id} task={task} onDone={onDone} onClose={close} />}
      {asking === 'pass' && <PassTaskDialog deal={deal} task={task} onClose={close} />}
    </div>
  );
}
