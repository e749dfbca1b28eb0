import type { Deal } from '@ladder/core';
import { textValue } from '@ladder/core';
import { asArray } from '../db/sql.ts';
import { Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';

type Owned = Pick<Deal, 'values'>;

const seesAll = (person: Person): boolean => person.role === 'administrator' || person.role === 'viewer';

/** Sellers and managers see the deals of their teams, and their own; administrators and viewers all (S32). */
export function maySee(person: Person, deal: Owned): boolean {
  const team = textValue(deal, 'team');
  return seesAll(person) || textValue(deal, 'owner') === person.id || (team !== null && person.teams.includes(team));
}

/** Who sees a deal may change it, viewers excepted. */
export const mayChange = (person: Person, deal: Owned): boolean => person.role !== 'viewer' && maySee(person, deal);

/** Throws where the person may not change the deal. */
export function requireChange(person: Person, deal: Owned): void {
  if (!mayChange(person, deal)) throw new Problem(403, 'Only people of the deal’s team may change it.');
}

/** A condition on `deals d` that keeps to what the person may see, and its parameters. */
export function visibleDeals(person: Person): { condition: string; parameters: Record<string, unknown> } {
  if (seesAll(person)) return { condition: 'true', parameters: {} };
  return {
    condition: '(d.team_id = any(:seenTeams::uuid[]) or d.owner_id = :seenOwner::uuid)',
    parameters: { seenTeams: asArray(person.teams), seenOwner: person.id },
  };
}
