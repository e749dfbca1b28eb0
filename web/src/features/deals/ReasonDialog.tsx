import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';

interface ReasonDialogProps {
  readonly title: string;
  readonly label: string;
  readonly confirm: string;
  readonly danger?: 'yes';
  readonly onConfirm: (text: string) => Promise<{ readonly error?: unknown }>;
  readonly onClose: () => void;
}

/** Asks why, in the person's own words. */
export function ReasonDialog({ title, label, confirm, danger, onConfirm, onClose }: ReasonDialogProps) {
  const reason = useBodyForm({
    begin: { text: '' },
    schema: ({ deal }) => deal.why,
    toBody: ({ text }) => ({ text: text.trim() }),
    send: ({ text }) => onConfirm(text),
    onDone: onClose,
    words: { text: 'Say why.' },
  });
  return (
    <FormDialog title={title} confirm={confirm} variant={danger ? 'danger' : 'primary'} of={reason} onClose={onClose}>
      <TextField form={reason.form} name="text" id="reason-text" label={label} rows={3} autoFocus max={2000} />
    </FormDialog>
  );
}
