import { createContext, use } from 'react';
import type { Session } from './api.ts';

interface SignedInSession {
  readonly person: NonNullable<Session['person']>;
  readonly organisation: Session['organisation'];
}

export const SessionContext = createContext<SignedInSession | null>(null);

/** Who is signed in, and for which organisation. */
export function useSession(): SignedInSession {
  const session = use(SessionContext);
  if (!session) throw new Error('This page needs a session.');
  return session;
}
