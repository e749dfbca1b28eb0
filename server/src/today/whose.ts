import type { EntityManager } from 'typeorm';
import { findAccountWithAccess } from '../people/repository.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { findTeam, type Whose } from './repository.ts';

export interface AskedWhose {
  readonly person?: string;
  readonly team?: string;
}

/** Whose day is asked for: one's own, or, as a manager, one of one's teams or their people (S59); any for an administrator. */
export async function whoseDay(tx: EntityManager, viewer: Person, { person, team }: AskedWhose): Promise<Whose> {
  if (person !== undefined && team !== undefined)
    throw invalid([{ pointer: '/query/team', detail: 'Name a person or a team, not both.' }]);
  if (team !== undefined) return teamsDay(tx, viewer, team);
  if (person === undefined || person === viewer.id) return personsDay(viewer, viewer.standsInFor);
  const account = await findAccountWithAccess(tx, person);
  if (!account) throw notFound('person');
  const isTheirs = account.teams.some((one) => viewer.teams.includes(one));
  requireManaging(viewer, isTheirs ? 'theirs' : 'other');
  return personsDay(account);
}

async function teamsDay(tx: EntityManager, viewer: Person, id: string): Promise<Whose> {
  const team = await findTeam(tx, id);
  if (!team) throw notFound('team');
  requireManaging(viewer, viewer.teams.includes(id) ? 'theirs' : 'other');
  return { kind: 'team', id, name: team.name, teams: [id], people: team.people, decider: viewer };
}

/** With what falls to people who are away and for whom they stand in (S60). */
const personsDay = ({ id, name, role, teams }: Person, away: readonly string[] = []): Whose => ({
  kind: 'person',
  id,
  name,
  teams,
  people: [id, ...away],
  decider: { id, role },
});

function requireManaging({ role }: Person, whose: 'theirs' | 'other'): void {
  if (role === 'administrator' || (role === 'manager' && whose === 'theirs')) return;
  throw new Problem(403, 'Only a manager of the team sees the day of others.');
}
