import type { calendars as contract, TypeOf } from '@ladder/contract';
import { type DealId, localDay, personActor, recountDays } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { CalendarEntity } from '../db/entities/calendar.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import { ProcessLogEntryEntity } from '../db/entities/processLogEntry.ts';
import { at } from '../db/sql.ts';
import { loadDeals, lockDeals } from '../deals/repository/loadDeals.ts';
import { writeDeals } from '../deals/repository/writeDeals.ts';
import type { AskedWork } from '../longWork/startWork.ts';
import type { WorkInHand, WorkKind } from '../longWork/workKind.ts';
import { organisation } from '../session/repository.ts';
import { awaitWriters, lockProcess } from '../setting/repository/lockProcess.ts';
import { loadSettings, touchProcess } from '../setting/repository/settings.ts';
import { logCalendar } from './calendarLog.ts';
import { countRecounts, dealsToRecount, noteRecounts, takeRecounts } from './repository.ts';
import {
  type CalendarChange,
  changeOf,
  countsOf,
  isAlike,
  requireCalendar,
  requireSeen,
  storedOf,
  writtenOf,
} from './service.ts';

/** What is asked, and what it comes to. Only one change of calendars is made at a time, so that stays so until it is done. */
interface Request {
  readonly asked: TypeOf<typeof contract.asked>;
  readonly change: CalendarChange;
}

/** What changes a calendar. */
export async function calendarToChange(
  tx: EntityManager,
  calendar: string,
  { saw, ...written }: TypeOf<typeof contract.change>,
): Promise<AskedWork> {
  const asked = { what: 'calendar', calendar, ...written } as const;
  const change = await changeOf(tx, asked);
  requireSeen(saw, change.before);
  return { kind: 'calendar', subject: 'calendars', request: { asked, change } satisfies Request };
}

/** What lets a process go by another calendar. */
export async function calendarToChoose(
  tx: EntityManager,
  process: CalendarChange['processes'][number],
  { calendar, saw }: TypeOf<typeof contract.choice>,
): Promise<AskedWork> {
  const asked = { what: 'process', process, calendar } as const;
  const change = await changeOf(tx, asked);
  requireSeen(saw, (await tx.getRepository(ProcessEntity).findOneByOrFail({ id: process })).calendarId);
  return { kind: 'calendar', subject: 'calendars', request: { asked, change } satisfies Request };
}

/**
 * The calendar counts from now on, at once; which days were counted by the one before is noted down with it. They are then
 * counted anew, some deals at a time, so that nobody waits; a server that goes in between leaves that to be gone on with.
 */
export const calendarWork: WorkKind<Request> = { kind: 'calendar', run: changeCalendar };

type Work = WorkInHand<Request>;

async function changeCalendar(tx: EntityManager, work: Work): Promise<number> {
  await work.apart((step) => putInForce(step, work));
  const total = await countRecounts(tx);
  let [done, changed] = [0, 0];
  for (;;) {
    const ids = await dealsToRecount(tx, BATCH);
    if (ids.length === 0) return changed;
    changed += await work.apart((step) => recountSome(step, ids, work));
    done += ids.length;
    await work.progress(done, total);
  }
}

/** So few that other answers come in between. */
const BATCH = 50;

/** Writes the change; nothing where that was done. */
async function putInForce(tx: EntityManager, work: Work): Promise<void> {
  const { asked, change } = work.request;
  for (const process of [...change.processes].sort()) await lockProcess(tx, process, 'publish');
  if (await isInForce(tx, work.request)) return;
  for (const process of [...change.processes].sort()) await awaitWriters(tx, process);
  await work.bind(tx);
  const setter = { by: work.by, now: work.now };
  if (asked.what === 'calendar') {
    await tx.getRepository(CalendarEntity).update({ id: asked.calendar }, storedOf(change.after));
    await logCalendar(tx, change.before, change.after, setter);
  } else {
    await tx.getRepository(ProcessEntity).update({ id: asked.process }, { calendarId: asked.calendar });
    await tx.getRepository(ProcessLogEntryEntity).insert({
      processId: asked.process,
      at: at(work.now),
      byId: work.by,
      what: 'settings',
      before: { calendar: change.before.name },
      after: { calendar: change.after.name },
    });
  }
  for (const process of change.processes) await touchProcess(tx, process);
  await noteRecounts(tx, change.processes, localDay(work.now, (await organisation(tx)).timeZone));
}

async function isInForce(tx: EntityManager, { asked, change }: Request): Promise<boolean> {
  if (asked.what === 'process') {
    const { calendarId } = await tx.getRepository(ProcessEntity).findOneByOrFail({ id: asked.process });
    return calendarId === asked.calendar;
  }
  return !isAlike(writtenOf(await requireCalendar(tx, asked.calendar)), change.before);
}

async function recountSome(tx: EntityManager, ids: readonly DealId[], work: Work): Promise<number> {
  await lockDeals(tx, ids);
  const counted = await takeRecounts(tx, ids);
  const deals = await loadDeals(tx, ids);
  const settings = await loadSettings(
    tx,
    deals.map(({ version }) => version),
  );
  const { before, after } = work.request.change;
  const recount = { name: after.name, before: countsOf(before), after: countsOf(after) };
  const moment = { by: personActor(work.by), happenedAt: work.now, recordedAt: work.now };
  let changed = 0;
  for (const setting of settings.values()) {
    const writes = deals
      .filter(({ version }) => version === setting.version)
      .flatMap((deal) => {
        const days = counted.get(deal.id);
        const change = days && recountDays(deal, setting, days, recount, moment);
        return change && change.deal !== deal ? [{ before: deal, change }] : [];
      });
    await writeDeals(tx, writes, setting.catalogue);
    changed += writes.length;
  }
  return changed;
}
