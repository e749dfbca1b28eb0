import type { DealId } from '@ladder/core';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { type StepAtHand, usePutStepOffMutation } from './dealsApi.ts';

interface PutOffDialogProps {
  readonly deal: DealId;
  readonly run: Pick<StepAtHand, 'seq' | 'name' | 'dueDay'>;
  /** The day to which it was carried, where it was. */
  readonly day?: string;
  readonly onDone?: () => void;
  readonly onClose: () => void;
}

/** Another due day for a step, and why. */
export function PutOffDialog({ deal, run, day: chosen, onDone, onClose }: PutOffDialogProps) {
  const [putOff] = usePutStepOffMutation();
  const form = useBodyForm({
    begin: { day: chosen ?? run.dueDay ?? '', text: '' },
    schema: (contract) => contract.deal.puttingOff,
    toBody: ({ day, text }) => ({ day, text: text.trim() }),
    send: (body) => putOff({ deal, run: run.seq, body }),
    onDone: () => {
      onDone?.();
      onClose();
    },
    words: { day: 'Choose a day.', text: 'Say why.' },
  });
  return (
    <FormDialog title={`${run.name}: another day`} confirm="Set the day" of={form} onClose={onClose}>
      <TextField form={form.form} name="day" id="put-off-day" label="Due on" type="date" max={10} autoFocus />
      <TextField form={form.form} name="text" id="put-off-text" label="Why?" rows={2} max={2000} />
    </FormDialog>
  );
}
