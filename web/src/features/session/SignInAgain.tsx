import { api, type Session, TAGS } from '../../client/api.ts';
import { useAppDispatch } from '../../client/hooks.ts';
import { useSession } from '../../client/session.ts';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { useSignInMutation } from './sessionApi.ts';

/** Over the page whose session has ended: what was written there stays, and is sent again by whoever wrote it. */
export function SignInAgain() {
  const { person } = useSession();
  const dispatch = useAppDispatch();
  const [signIn] = useSignInMutation();
  const goOn = (session: Session) => {
    // Another person's page is not for the one who signed in.
    if (session.person?.id !== person.id) window.location.assign('/');
    else dispatch(api.util.invalidateTags([...TAGS]));
  };
  const credentials = useBodyForm({
    begin: { email: '', password: '' },
    schema: ({ people }) => people.signIn,
    toBody: ({ email, password }) => ({ email: email.trim(), password }),
    send: signIn,
    onDone: goOn,
  });
  const { form } = credentials;
  const leave = () => window.location.assign('/sign-in');
  return (
    <FormDialog title="You were signed out" confirm="Sign in" of={credentials} onClose={leave}>
      <p className="muted small">Sign in again to go on where you are. What you wrote is still here.</p>
      <TextField form={form} name="email" id="again-email" label="E-mail address" autoFocus max={320} />
      <TextField form={form} name="password" id="again-password" label="Password" type="password" max={200} />
    </FormDialog>
  );
}
