import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { useChangeOwnPasswordMutation } from './sessionApi.ts';

const SHORTEST = 10;

/** Changes one's own password. */
export function PasswordDialog({ onClose }: { onClose: () => void }) {
  const [changePassword] = useChangeOwnPasswordMutation();
  const passwords = useBodyForm({
    begin: { present: '', next: '' },
    schema: ({ people }) => people.ownPassword,
    toBody: (values) => values,
    send: changePassword,
    onDone: onClose,
    words: { next: `At least ${SHORTEST} characters.` },
  });
  const box = { form: passwords.form, type: 'password', max: 200 } as const;
  return (
    <FormDialog title="Change your password" confirm="Change it" of={passwords} onClose={onClose}>
      <p className="muted small">Wherever else you are signed in, you are signed out.</p>
      <TextField {...box} name="present" id="password-present" label="Present password" autoFocus />
      <TextField {...box} name="next" id="password-next" label={`New password, at least ${SHORTEST} characters`} />
    </FormDialog>
  );
}
