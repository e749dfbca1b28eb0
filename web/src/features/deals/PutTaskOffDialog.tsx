import type { DealId } from '@ladder/core';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { type Task, usePutTaskOffMutation } from './tasksApi.ts';

interface PutTaskOffDialogProps {
  readonly deal: DealId;
  readonly task: Pick<Task, 'seq' | 'title' | 'dueDay' | 'dueTime'>;
  /** The day to which it was carried, where it was. */
  readonly day?: string;
  readonly onDone?: () => void;
  readonly onClose: () => void;
}

/** Another day or time for a task, and why. */
export function PutTaskOffDialog({ deal, task, day, onDone, onClose }: PutTaskOffDialogProps) {
  const [putOff] = usePutTaskOffMutation();
  const form = useBodyForm({
    begin: { day: day ?? task.dueDay, time: task.dueTime ?? '', text: '' },
    schema: (contract) => contract.tasks.puttingOff,
    toBody: (values) => ({ day: values.day, text: values.text.trim(), ...(values.time ? { time: values.time } : {}) }),
    send: (body) => putOff({ deal, task: task.seq, body }),
    onDone: () => {
      onDone?.();
      onClose();
    },
    words: { day: 'Choose a day.', time: 'Write a time as 14:00.', text: 'Say why.' },
  });
  return (
    <FormDialog title={`${task.title}: another day`} confirm="Set the day" of={form} onClose={onClose}>
      <div className="panel-duo">
        <TextField form={form.form} name="day" id="task-day" label="Due on" type="date" max={10} autoFocus />
        <TextField form={form.form} name="time" id="task-time" label="At, if it matters" type="time" max={5} />
      </div>
      <TextField form={form.form} name="text" id="task-text" label="Why?" rows={2} max={2000} />
    </FormDialog>
  );
}
