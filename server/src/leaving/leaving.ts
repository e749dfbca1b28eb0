import type { people as contract, TypeOf } from '@ladder/contract';
import { type DealId, handOnDeal, personActor, readDocument } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import type { Context } from '../context.ts';
import { AbsenceEntity } from '../db/entities/absence.ts';
import { CalendarFeedEntity } from '../db/entities/calendarFeed.ts';
import { SessionEntity } from '../db/entities/session.ts';
import { WatcherEntity } from '../db/entities/watcher.ts';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { changeAccountIn, lockAdministrators, requireAdministrator } from '../people/people.ts';
import { type Account, countHoldings, findAccount, findHeldDeals, stepsNaming } from '../people/repository.ts';
import { invalid, notFound } from '../problems/problem.ts';
import { loadSettings } from '../setting/repository/settings.ts';

type Holdings = TypeOf<typeof contract.holdings>;

interface Leaving {
  readonly person: string;
  /** Who has all of it from now on. */
  readonly to: string;
}

/** All that somebody has: what has to go to another before they leave. */
export async function getHoldings(context: Context, person: string): Promise<Holdings> {
  const tx = context.dataSource.manager;
  if (!(await findAccount(tx, person))) throw notFound('person');
  return { ...(await countHoldings(tx, person)), named: await namedIn(tx, person) };
}

/** Steps of live versions that name the person: those change by a publish alone. */
async function namedIn(tx: EntityManager, person: string): Promise<Holdings['named']> {
  const rows = await stepsNaming(tx, person);
  return rows.flatMap(({ process, name, document: stored }) =>
    readDocument(stored).stages.flatMap(({ name: stage, steps }) =>
      steps.flatMap(({ name: step, who }) =>
        who.by === 'person' && who.person === person ? [{ process: { id: process, name }, stage, step }] : [],
      ),
    ),
  );
}

/** What empties somebody who leaves: all that is theirs goes to one other, then they sign in no more. */
export async function leavingToBegin(tx: EntityManager, { person, to }: Leaving, by: string): Promise<AskedWork> {
  const [leaver, successor] = [await findAccount(tx, person), await findAccount(tx, to)];
  if (!leaver) throw notFound('person');
  requireSuccessor(leaver, successor);
  if (person === by) throw invalid([{ pointer: '/to', detail: 'Let another administrator do that for you.' }], 422);
  const named = await namedIn(tx, person);
  const [first] = named;
  if (first)
    throw invalid(
      [
        {
          pointer: '/to',
          detail: `${leaver.name} is named in the step “${first.step}” of ${first.process.name}${named.length > 1 ? ` and ${named.length - 1} more` : ''}. Name someone else there and publish first.`,
        },
      ],
      422,
    );
  const { openDeals, followUps, others } = await countHoldings(tx, person);
  return { kind: 'leaving', subject: person, request: { person, to }, total: openDeals + followUps + others };
}

function requireSuccessor(leaver: Account, successor: Account | null): void {
  const wrong = (detail: string) => invalid([{ pointer: '/to', detail }], 422);
  if (!successor?.active) throw wrong('There is no such person, or they have left.');
  if (successor.id === leaver.id) throw wrong('Choose someone else.');
  if (successor.role === 'viewer') throw wrong(`${successor.name} changes nothing. Choose someone who works on deals.`);
}

const BATCH = 50;

export const leavingWork: WorkKind<Leaving> = { kind: 'leaving', run: leave };

/** A batch of deals at a time, each over at once, so that nobody waits long; begun again it goes on with what is left. */
async function leave(tx: EntityManager, work: WorkInHand<Leaving>): Promise<number> {
  const { person, to } = work.request;
  let done = 0;
  for (;;) {
    const ids = await findHeldDeals(tx, person, BATCH);
    if (ids.length === 0) break;
    const changed = await work.apart((step) => handOn(step, ids, work));
    if (changed === 0) throw new Error('What is still theirs cannot be handed on');
    done += changed;
    await work.progress(done);
  }
  await lockAdministrators(tx);
  await tx.getRepository(AbsenceEntity).delete({ personId: person });
  await tx.getRepository(AbsenceEntity).delete({ personId: to, substituteId: person });
  await tx.getRepository(AbsenceEntity).update({ substituteId: person }, { substituteId: to });
  await tx.getRepository(WatcherEntity).delete({ personId: person });
  await tx.getRepository(CalendarFeedEntity).delete({ personId: person });
  await tx.getRepository(SessionEntity).delete({ personId: person });
  await changeAccountIn(tx, person, { active: false }, { by: work.by, now: work.now });
  await requireAdministrator(tx);
  return done;
}

async function handOn(tx: EntityManager, ids: readonly DealId[], work: WorkInHand<Leaving>): Promise<number> {
  await lockDeals(tx, ids);
  const deals = await loadDeals(tx, ids);
  const settings = await loadSettings(
    tx,
    deals.map(({ version }) => version),
  );
  const moment = { by: personActor(work.by), happenedAt: work.now, recordedAt: work.now };
  let changed = 0;
  for (const setting of settings.values()) {
    const writes = deals.flatMap((before) => {
      const change = before.version === setting.version ? handOnDeal(before, setting, work.request, moment) : null;
      return change?.ok ? [{ before, change: change.value }] : [];
    });
    await writeDeals(tx, writes, setting.catalogue);
    changed += writes.filter(({ before, change }) => change.deal !== before).length;
  }
  return changed;
}
