import './signIn.css';
import type { FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Navigate, useLocation } from 'react-router';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Loading } from '../../parts/Loading.tsx';
import { useGetOffersQuery, useGetSessionQuery, useSignInMutation } from './sessionApi.ts';

/** Signing in; where the demo company is loaded on this machine, its people are one click away. */
export function SignInPage() {
  const { data: session, isLoading } = useGetSessionQuery();
  const location = useLocation();
  if (isLoading) return <Loading />;
  if (session?.person) return <Navigate to={(location.state as { from?: string } | null)?.from ?? '/'} replace />;
  return (
    <main className="sign-in">
      <section>
        <h1>Dusty Ladder</h1>
        <p className="muted">How your sales are meant to run, and how they do.</p>
        <Credentials />
      </section>
      <Offers />
    </main>
  );
}

function Credentials() {
  const [signIn] = useSignInMutation();
  const { form, submit, error } = useBodyForm({
    begin: { email: '', password: '' },
    schema: ({ people }) => people.signIn,
    toBody: (values) => values,
    send: signIn,
    words: { email: 'Write your e-mail address.', password: 'Write your password.' },
  });
  const send = (event: FormEvent) => {
    event.preventDefault();
    submit();
  };
  const password = { type: 'password', autoComplete: 'current-password' } as const;
  return (
    <Form noValidate onSubmit={send}>
      <TextField
        form={form}
        name="email"
        id="email"
        label="E-mail address"
        type="email"
        autoComplete="username"
        max={320}
      />
      <TextField form={form} name="password" id="password" label="Password" {...password} max={200} />
      <ErrorNotice error={error} />
      <Button type="submit" disabled={form.formState.isSubmitting}>
        Sign in
      </Button>
    </Form>
  );
}

/** The people of the demo company, where it is loaded on this machine. */
function Offers() {
  const { data: offers } = useGetOffersQuery();
  const [signIn, { isLoading }] = useSignInMutation();
  if (!offers?.available) return null;
  return (
    <section>
      <h2>Look around as…</h2>
      <p className="muted small">
        The demo company Hollin &amp; Marsh is loaded. Nobody outside this machine sees this list.
      </p>
      <ul className="offers">
        {offers.people.map(({ name, title, email, password }) => (
          <li key={email}>
            <button type="button" disabled={isLoading} onClick={() => signIn({ email, password })}>
              <b>{name}</b>
              <span>{title}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
