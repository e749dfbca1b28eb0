import { useEffect } from 'react';
import { Navigate } from 'react-router';
import { useSession } from '../client/session.ts';
import { type Landing, rememberLanding } from './landing.ts';

/** Whoever works deals begins with their day, others with the deals. */
export function FirstPage() {
  const { person } = useSession();
  const landing: Landing = person.role === 'seller' || person.role === 'manager' ? '/today' : '/deals';
  useEffect(() => rememberLanding(landing), [landing]);
  return <Navigate to={landing} replace />;
}
