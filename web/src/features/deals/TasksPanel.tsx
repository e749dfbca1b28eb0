import './tasks.css';
import { useState } from 'react';
import { Button, Dropdown, Form } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, shortDay } from '../../parts/format.ts';
import type { DealDetail } from './dealsApi.ts';
import { NewTask } from './NewTask.tsx';
import { PassTaskDialog } from './PassDialog.tsx';
import { PutTaskOffDialog } from './PutTaskOffDialog.tsx';
import { RenameTaskDialog } from './RenameTaskDialog.tsx';
import { TaskDue } from './TaskDue.tsx';
import { type Task, useEndTaskMutation, useReopenTaskMutation } from './tasksApi.ts';

const ENDED_SHOWN = 3;

/** What is to be done about a deal, and what was done last. */
export function TasksPanel({ deal }: { deal: DealDetail }) {
  const mayWork = deal.may.change && deal.status.state !== 'voided';
  const open = deal.tasks.filter(({ end }) => end === null);
  const ended = deal.tasks.filter(({ end }) => end !== null);
  const [isAllShown, setAllShown] = useState(false);
  if (deal.tasks.length === 0 && !mayWork) return null;
  return (
    <section className="tasks" aria-labelledby="tasks-title">
      <h3 id="tasks-title">
        Tasks <small>{open.length === 0 ? 'none open' : `${open.length} open`}</small>
      </h3>
      <ul>
        {[...open, ...(isAllShown ? ended : ended.slice(0, ENDED_SHOWN))].map((task) => (
          <TaskRow key={task.seq} deal={deal} task={task} mayWork={mayWork} />
        ))}
      </ul>
      {ended.length > ENDED_SHOWN && (
        <Button variant="link" size="sm" aria-expanded={isAllShown} onClick={() => setAllShown(!isAllShown)}>
          {isAllShown
            ? 'Fold what is done'
            : `${countOf(ended.length - ENDED_SHOWN, 'more')} that ended`.replace('mores', 'more')}
        </Button>
      )}
      {mayWork && <NewTask deal={deal} />}
    </section>
  );
}

interface TaskRowProps {
  readonly deal: DealDetail;
  readonly task: Task;
  readonly mayWork: boolean;
}

function TaskRow({ deal, task, mayWork }: TaskRowProps) {
  const { organisation } = useSession();
  const [end, ending] = useEndTaskMutation();
  const [reopen, reopening] = useReopenTaskMutation();
  const of = { deal: deal.id, task: task.seq };
  const name = task.title === '' ? 'Erased' : task.title;
  return (
    <li className={task.end ? 'ended' : ''}>
      <Form.Check
        id={`task-${deal.id}-${task.seq}`}
        label={name}
        checked={task.end?.how === 'done'}
        disabled={!mayWork || ending.isLoading || reopening.isLoading}
        onChange={() => (task.end ? reopen(of) : end({ ...of, how: 'done' }))}
      />
      <span className="small muted">
        {task.end ? (
          <>
            {task.end.how === 'done' ? 'done' : 'cancelled'} {shortDay(task.end.day, organisation.today)}
            {task.end.by && `, ${task.end.by}`}
          </>
        ) : (
          <>
            <TaskDue task={task} /> · {task.person?.name ?? 'nobody’s yet'}
          </>
        )}
        {task.set && ` · ${task.set}`}
      </span>
      {mayWork && !task.end && <TaskMenu deal={deal} task={task} onCancel={() => end({ ...of, how: 'cancelled' })} />}
      <ErrorNotice error={ending.error ?? reopening.error} />
    </li>
  );
}

type Asking = 'put_off' | 'pass' | 'rename' | null;

interface TaskMenuProps {
  readonly deal: DealDetail;
  readonly task: Task;
  readonly onCancel: () => void;
}

function TaskMenu({ deal, task, onCancel }: TaskMenuProps) {
  const [asking, setAsking] = useState<Asking>(null);
  const close = () => setAsking(null);
  return (
    <>
      <Dropdown align="end">
        <Dropdown.Toggle variant="link" size="sm" aria-label={`More about ${task.title}`}>
          More
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item onClick={() => setAsking('put_off')}>Another day…</Dropdown.Item>
          <Dropdown.Item onClick={() => setAsking('pass')}>Who does it…</Dropdown.Item>
          <Dropdown.Item onClick={() => setAsking('rename')}>Call it otherwise…</Dropdown.Item>
          <Dropdown.Divider />
          <Dropdown.Item onClick={onCancel}>Not needed any more</Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      {asking === 'put_off' && <PutTaskOffDialog deal={deal.id} task={task} onClose={close} />}
      {asking === 'pass' && <PassTaskDialog deal={deal} task={task} onClose={close} />}
      {asking === 'rename' && <RenameTaskDialog deal={deal.id} task={task} onClose={close} />}
    </>
  );
}
