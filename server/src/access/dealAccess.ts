import type { Deal } from '@ladder/core';
import { textValue } from '@ladder/core';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';

type Owned = Pick<Deal, 'values' | 'process'>;

export const seesAll = (person: Person): boolean => person.role === 'administrator' || person.role === 'viewer';

/** Whether a person sees a process: its stages, its lanes and measures, and the deals of their teams in it. */
export const seesProcess = ({ hiddenProcesses = [] }: Pick<Person, 'hiddenProcesses'>, process: string): boolean =>
  !hiddenProcesses.includes(process);

/** Whose own deals the person sees: theirs, and those of people who are away and for whom they stand in (S60). */
export const ownersSeen = ({ id, standsInFor = [] }: Person): readonly string[] => [id, ...standsInFor];

/**
 * Sellers and managers see the deals of their teams, of processes that these see, and their own of any; administrators and
 * viewers all (S32).
 */
export function maySee(person: Person, deal: Owned): boolean {
  const [team, owner] = [textValue(deal, 'team'), textValue(deal, 'owner')];
  return (
    seesAll(person) ||
    (owner !== null && ownersSeen(person).includes(owner)) ||
    (team !== null && person.teams.includes(team) && seesProcess(person, deal.process))
  );
}

/** Who sees a deal may change it, viewers excepted. */
export const mayChange = (person: Person, deal: Owned): boolean => person.role !== 'viewer' && maySee(person, deal);

/** Throws where the person may not change the deal. */
export function requireChange(person: Person, deal: Owned): void {
  if (!mayChange(person, deal)) throw new Problem(403, 'Only people of the deal’s team may change it.');
}

/** Who looks over what others do. */
export const isReviewer = ({ role }: Pick<Person, 'role'>): boolean => role === 'administrator' || role === 'manager';
