import './signIn.css';
import { joiResolver } from '@hookform/resolvers/joi';
import { people } from '@ladder/contract';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { Navigate, useLocation } from 'react-router';
import { problemOf } from '../../client/api.ts';
import { Loading } from '../../parts/Loading.tsx';
import { useGetOffersQuery, useGetSessionQuery, useSignInMutation } from './sessionApi.ts';

interface Credentials {
  email: string;
  password: string;
}

/** Signing in; where the demo company is loaded on this machine, its people are one click away. */
export function SignInPage() {
  const { data: session, isLoading } = useGetSessionQuery();
  const { data: offers } = useGetOffersQuery();
  const [signIn, { error, isLoading: isSigningIn }] = useSignInMutation();
  const location = useLocation();
  const { register, handleSubmit, formState } = useForm<Credentials>({ resolver: joiResolver(people.signIn.joi) });
  if (isLoading) return <Loading />;
  if (session?.person) return <Navigate to={(location.state as { from?: string } | null)?.from ?? '/deals'} replace />;
  const problem = problemOf(error);
  return (
    <main className="sign-in">
      <section>
        <h1>Dusty Ladder</h1>
        <p className="muted">How your sales are meant to run, and how they do.</p>
        <Form noValidate onSubmit={handleSubmit((values) => signIn(values))}>
          <Form.Group controlId="email" className="mb-2">
            <Form.Label>E-mail address</Form.Label>
            <Form.Control
              type="email"
              autoComplete="username"
              isInvalid={Boolean(formState.errors.email)}
              {...register('email')}
            />
            <Form.Control.Feedback type="invalid">Write your e-mail address.</Form.Control.Feedback>
          </Form.Group>
          <Form.Group controlId="password" className="mb-3">
            <Form.Label>Password</Form.Label>
            <Form.Control
              type="password"
              autoComplete="current-password"
              isInvalid={Boolean(formState.errors.password ?? problem)}
              {...register('password')}
            />
            <Form.Control.Feedback type="invalid">
              {formState.errors.password ? 'Write your password.' : problem?.detail}
            </Form.Control.Feedback>
          </Form.Group>
          <Button type="submit" disabled={isSigningIn}>
            Sign in
          </Button>
        </Form>
      </section>
      {offers?.available && (
        <section>
          <h2>Look around as…</h2>
          <p className="muted small">
            The demo company Hollin &amp; Marsh is loaded. Nobody outside this machine sees this list.
          </p>
          <ul className="offers">
            {offers.people.map(({ name, title, email, password }) => (
              <li key={email}>
                <button type="button" disabled={isSigningIn} onClick={() => signIn({ email, password })}>
                  <b>{name}</b>
                  <span>{title}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}
