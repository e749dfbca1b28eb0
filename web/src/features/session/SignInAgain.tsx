import { useState } from 'react';
import { api, problemAt, problemOf, TAGS } from '../../client/api.ts';
import { useAppDispatch } from '../../client/hooks.ts';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { TextField } from '../../parts/TextField.tsx';
import { useSignInMutation } from './sessionApi.ts';

/** Over the page whose session has ended: what was written there stays, and is sent again by whoever wrote it. */
export function SignInAgain() {
  const { person } = useSession();
  const dispatch = useAppDispatch();
  const [signIn, { error, isLoading }] = useSignInMutation();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const problem = problemOf(error);
  const submit = async () => {
    const { data: session } = await signIn({ email: email.trim(), password });
    if (!session) return;
    // Another person's page is not for the one who signed in.
    if (session.person?.id !== person.id) window.location.assign('/');
    else dispatch(api.util.invalidateTags([...TAGS]));
  };
  return (
    <FormDialog
      title="You were signed out"
      confirm="Sign in"
      isBusy={isLoading}
      error={error}
      onSubmit={submit}
      onClose={() => window.location.assign('/sign-in')}
    >
      <p className="muted small">Sign in again to go on where you are. What you wrote is still here.</p>
      <TextField
        id="again-email"
        label="E-mail address"
        autoFocus
        max={320}
        value={email}
        problem={problemAt(problem, '/email')}
        onChange={setEmail}
      />
      <TextField
        id="again-password"
        label="Password"
        type="password"
        max={200}
        value={password}
        problem={problemAt(problem, '/password')}
        onChange={setPassword}
      />
    </FormDialog>
  );
}
