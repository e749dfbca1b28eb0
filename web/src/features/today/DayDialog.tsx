import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';

interface DayDialogProps {
  readonly title: string;
  readonly label: string;
  readonly day: string;
  readonly onDay: (day: string) => Promise<{ readonly error?: unknown }>;
  readonly onDone: () => void;
  readonly onClose: () => void;
}

/** Asks for another day. */
export function DayDialog({ title, label, day, onDay, onDone, onClose }: DayDialogProps) {
  const form = useBodyForm({
    begin: { day },
    schema: (contract) => contract.deal.onDay,
    toBody: (written) => written,
    send: (body) => onDay(body.day),
    onDone: () => {
      onDone();
      onClose();
    },
    words: { day: 'Choose a day.' },
  });
  return (
    <FormDialog title={title} confirm="Set the day" of={form} onClose={onClose}>
      <TextField form={form.form} name="day" id="other-day" label={label} type="date" max={10} autoFocus />
    </FormDialog>
  );
}
