import { useState } from 'react';
import { problemAt, problemOf } from '../../client/api.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { useChangeOwnPasswordMutation } from './sessionApi.ts';

const SHORTEST = 10;

/** Changes one's own password. */
export function PasswordDialog({ onClose }: { onClose: () => void }) {
  const [changePassword, { error, isLoading }] = useChangeOwnPasswordMutation();
  const [present, setPresent] = useState('');
  const [next, setNext] = useState('');
  const [isAsked, setAsked] = useState(false);
  const isShort = next.length < SHORTEST;
  const problem = problemOf(error);
  const submit = async () => {
    setAsked(true);
    if (isShort) return;
    const answer = await changePassword({ present, next });
    if (!answer.error) onClose();
  };
  return (
    <FormDialog
      title="Change your password"
      confirm="Change it"
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={onClose}
    >
      <p className="muted small">Wherever else you are signed in, you are signed out.</p>
      <TextField
        id="password-present"
        label="Present password"
        type="password"
        autoFocus
        max={200}
        value={present}
        problem={problemAt(problem, '/present')}
        onChange={setPresent}
      />
      <TextField
        id="password-next"
        label={`New password, at least ${SHORTEST} characters`}
        type="password"
        max={200}
        value={next}
        problem={isAsked && isShort ? `At least ${SHORTEST} characters.` : problemAt(problem, '/next')}
        onChange={setNext}
      />
    </FormDialog>
  );
}
