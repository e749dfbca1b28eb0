import type { Person } from '../session/person.ts';

/** How far a person may take back what was done: a manager what others did, and later. */
export const rankOf = ({ role }: Person): 'maker' | 'manager' =>
  role === 'administrator' || role === 'manager' ? 'manager' : 'maker';
