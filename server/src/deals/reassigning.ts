import type { deal as contract, TypeOf } from '@ladder/contract';
import { type Deal, type Reassigning, reassignDeal, textValue } from '@ladder/core';
import { type EntityManager, In } from 'typeorm';
import { mayChange } from '../access/dealAccess.ts';
import type { Context } from '../context.ts';
import { WatcherEntity } from '../db/entities/watcher.ts';
import type { Reply } from '../http/reply.ts';
import { type AccountWithAccess, findAccountWithAccess, firstTeams } from '../people/repository.ts';
import { invalid, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { changeEach } from './changeEach.ts';

type Body = TypeOf<typeof contract.reassign>;

/** One deal or many fall to another owner, with their open work or without it (S32): all of them, or none. */
export async function reassignDeals(
  context: Context,
  tx: EntityManager,
  person: Person,
  { deals, owner, team, watchers, ...along }: Body,
): Promise<Reply> {
  const account = await newOwner(tx, owner);
  const own = (await firstTeams(tx, [owner])).get(owner) ?? null;
  const befores = await changeEach(context, tx, person, [...new Set(deals)], (deal, setting, moment) => {
    const to: Reassigning = { owner, team: team === 'keep' ? textValue(deal, 'team') : own, ...along };
    const changed = reassignDeal(deal, setting, to, moment);
    if (!changed.ok) throw new Problem(409, `“${deal.name}” is void: it has no owner to change.`);
    return changed.value;
  });
  for (const { before, change } of befores) if (before) await requireStillSeen(tx, before, change.deal, along);
  if (watchers === 'drop') await tx.getRepository(WatcherEntity).delete({ dealId: In([...deals]) });
  return { body: { deals: befores.length, owner: account.name } };
}

async function newOwner(tx: EntityManager, id: string): Promise<AccountWithAccess> {
  const account = await findAccountWithAccess(tx, id);
  const wrong = (detail: string) => invalid([{ pointer: '/owner', detail }]);
  if (!account) throw wrong('There is no such person.');
  if (!account.active) throw wrong(`${account.name} has left. Choose someone else.`);
  if (account.role === 'viewer') throw wrong(`${account.name} changes nothing. Choose someone who works on deals.`);
  return account;
}

/** Work that stays with the owner before has to be of a deal that they see still. */
async function requireStillSeen(
  tx: EntityManager,
  before: Deal,
  after: Deal,
  along: Pick<Body, 'tasks' | 'steps'>,
): Promise<void> {
  const was = textValue(before, 'owner');
  if (was === null || was === textValue(after, 'owner')) return;
  const staying = (['tasks', 'steps'] as const).filter((part) => along[part] === 'stay' && holdsAny(after, part, was));
  const account = staying.length > 0 ? await findAccountWithAccess(tx, was) : null;
  if (!account || (account.active && mayChange(account, after))) return;
  const detail = `${account.name} could not work on “${before.name}” any more. Let them go along.`;
  throw invalid(
    staying.map((part) => ({ pointer: `/${part}`, detail })),
    422,
  );
}

const holdsAny = (deal: Deal, part: 'tasks' | 'steps', person: string): boolean =>
  (part === 'tasks' ? deal.tasks : deal.runs).some(({ assignee, end }) => end === null && assignee === person);
