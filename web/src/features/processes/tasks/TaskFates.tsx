import { TASK_FATES, TASK_MOVES, type TaskFate, type TaskMove } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { ErrorNotice } from '../../../parts/ErrorNotice.tsx';
import { Options } from '../../../parts/Options.tsx';
import { type ProcessDetail, useChangeProcessMutation } from '../processesApi.ts';

const MOVES: Readonly<Record<TaskMove, string>> = {
  forward: 'As a deal moves on',
  return: 'As it goes back',
  closing: 'As it closes',
};
const FATES: Readonly<Record<TaskFate, string>> = {
  keep: 'keep them',
  cancel: 'cancel them',
  ask: 'ask whoever moves it',
};

interface TaskFatesProps {
  readonly process: ProcessDetail;
  readonly mayChange: boolean;
}

/** What becomes of a deal's open tasks as it moves. */
export function TaskFates({ process, mayChange }: TaskFatesProps) {
  const [changeProcess, { error, isLoading }] = useChangeProcessMutation();
  const set = (move: TaskMove, fate: TaskFate) =>
    changeProcess({ id: process.id, body: { taskFates: { ...process.taskFates, [move]: fate } } });
  return (
    <section>
      <header>
        <h3>
          Open tasks <small>for all versions, at once</small>
        </h3>
      </header>
      {TASK_MOVES.map((move) => (
        <div key={move} className="panel-item">
          <label htmlFor={`fate-${move}`}>{MOVES[move]}</label>
          <Form.Select
            id={`fate-${move}`}
            size="sm"
            disabled={!mayChange || isLoading}
            value={process.taskFates[move]}
            onChange={(event) => set(move, event.target.value as TaskFate)}
          >
            <Options of={TASK_FATES.map((id) => ({ id, name: FATES[id] }))} />
          </Form.Select>
        </div>
      ))}
      <ErrorNotice error={error} />
    </section>
  );
}
