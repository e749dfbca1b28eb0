import { Navigate } from 'react-router';
import { useSession } from '../client/session.ts';

/** Whoever works deals begins with their day, others with the deals. */
export function FirstPage() {
  const { person } = useSession();
  const isWorking = person.role === 'seller' || person.role === 'manager';
  return <Navigate to={isWorking ? '/today' : '/deals'} replace />;
}
