import type { people as contract, TypeOf } from '@ladder/contract';
import { localDay } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { AbsenceEntity } from '../db/entities/absence.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { type Account, findAbsences, findAccount } from './repository.ts';

type Absence = TypeOf<typeof contract.absence>;
type Body = TypeOf<typeof contract.newAbsence>;

/** Who is away now or will be, the next first. */
export async function listAbsences(context: Context): Promise<{ items: readonly Absence[] }> {
  const today = localDay(context.clock.now(), (await organisation(context.dataSource)).timeZone);
  return { items: await findAbsences(context.dataSource, today) };
}

/** Marks someone away, in place of what was said before: their substitute sees their day too, and may do what is theirs (S60). */
export async function setAbsence(
  context: Context,
  tx: EntityManager,
  viewer: Person,
  person: string,
  { from, to, substitute }: Body,
): Promise<unknown> {
  await requireMayMark(tx, viewer, person);
  const today = localDay(context.clock.now(), (await organisation(tx)).timeZone);
  const wrong = (pointer: string, detail: string) => invalid([{ pointer, detail }], 422);
  if (to < from) throw wrong('/to', 'The last day away is no earlier than the first.');
  if (to < today) throw wrong('/to', 'The last day away is today or later.');
  await requireSubstitute(tx, person, substitute, { from, to, today });
  const row = { personId: person, fromDay: from, toDay: to, substituteId: substitute };
  await tx.getRepository(AbsenceEntity).upsert(row, ['personId']);
  return { items: await findAbsences(tx, today) };
}

export async function endAbsence(
  context: Context,
  tx: EntityManager,
  viewer: Person,
  person: string,
): Promise<unknown> {
  await requireMayMark(tx, viewer, person);
  await tx.getRepository(AbsenceEntity).delete({ personId: person });
  const today = localDay(context.clock.now(), (await organisation(tx)).timeZone);
  return { items: await findAbsences(tx, today) };
}

/** Oneself, a manager of one's team, an administrator. */
async function requireMayMark(tx: EntityManager, viewer: Person, person: string): Promise<Account> {
  const account = await findAccount(tx, person);
  if (!account?.active) throw notFound('person');
  const isManaging = viewer.role === 'manager' && account.teams.some((team) => viewer.teams.includes(team));
  if (person === viewer.id || isManaging || viewer.role === 'administrator') return account;
  throw new Problem(403, 'Only a manager of the team marks others away.');
}

async function requireSubstitute(
  tx: EntityManager,
  person: string,
  substitute: string,
  { from, to, today }: { readonly from: string; readonly to: string; readonly today: string },
): Promise<void> {
  const wrong = (detail: string) => invalid([{ pointer: '/substitute', detail }], 422);
  if (substitute === person) throw wrong('Choose someone else.');
  const account = await findAccount(tx, substitute);
  if (!account?.active) throw wrong('There is no such person, or they have left.');
  if (account.role === 'viewer') throw wrong(`${account.name} changes nothing. Choose someone who works on deals.`);
  const absences = await findAbsences(tx, today);
  const overlaps = (one: Absence): boolean => one.from <= to && from <= one.to;
  const leaning = absences.find((one) => one.substitute.id === person && overlaps(one));
  if (leaning)
    throw invalid(
      [
        {
          pointer: '/from',
          detail: `${leaning.person.name} is away then, and leans on them. Someone else has to stand in first.`,
        },
      ],
      422,
    );
  const theirs = absences.find((one) => one.person.id === substitute);
  if (theirs && overlaps(theirs)) throw wrong(`${account.name} is away then too, from ${theirs.from} to ${theirs.to}.`);
}
