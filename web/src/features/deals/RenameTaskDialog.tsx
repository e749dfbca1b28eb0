import { type DealId, LONGEST_TITLE } from '@ladder/core';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { type Task, useRenameTaskMutation } from './tasksApi.ts';

interface RenameTaskDialogProps {
  readonly deal: DealId;
  readonly task: Task;
  readonly onClose: () => void;
}

/** What a task is called. */
export function RenameTaskDialog({ deal, task, onClose }: RenameTaskDialogProps) {
  const [rename] = useRenameTaskMutation();
  const form = useBodyForm({
    begin: { title: task.title },
    schema: (contract) => contract.tasks.naming,
    toBody: ({ title }) => ({ title: title.trim() }),
    send: (body) => rename({ deal, task: task.seq, body }),
    onDone: onClose,
    words: { title: 'Say what is to be done.' },
  });
  return (
    <FormDialog title="What the task is called" confirm="Call it so" of={form} onClose={onClose}>
      <TextField
        form={form.form}
        name="title"
        id="task-title"
        label="What is to be done"
        max={LONGEST_TITLE}
        autoFocus
      />
    </FormDialog>
  );
}
