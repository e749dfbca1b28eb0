import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { type DealDetail, type StepAtHand, usePutStepOffMutation } from './dealsApi.ts';

interface PutOffDialogProps {
  readonly deal: DealDetail;
  readonly run: StepAtHand;
  readonly onClose: () => void;
}

/** Another due day for a step, and why. */
export function PutOffDialog({ deal, run, onClose }: PutOffDialogProps) {
  const [putOff] = usePutStepOffMutation();
  const form = useBodyForm({
    begin: { day: run.dueDay ?? '', text: '' },
    schema: (contract) => contract.deal.puttingOff,
    toBody: ({ day, text }) => ({ day, text: text.trim() }),
    send: (body) => putOff({ deal: deal.id, run: run.seq, body }),
    onDone: onClose,
    words: { day: 'Choose a day.', text: 'Say why.' },
  });
  return (
    <FormDialog title={`${run.name}: another day`} confirm="Set the day" of={form} onClose={onClose}>
      <TextField form={form.form} name="day" id="put-off-day" label="Due on" type="date" max={10} autoFocus />
      <TextField form={form.form} name="text" id="put-off-text" label="Why?" rows={2} max={2000} />
    </FormDialog>
  );
}
