import type { calendars as contract, InputProblem, TypeOf } from '@ladder/contract';
import { type Calendar, canonicalText, localDay, type ProcessId, recountedDay } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { CalendarEntity } from '../db/entities/calendar.ts';
import { ProcessEntity } from '../db/entities/process.ts';
import type { Connection } from '../db/sql.ts';
import { DEFAULT_LIMIT, readCursor, toPage } from '../http/pages.ts';
import { newId } from '../ids.ts';
import { invalid, notFound, Problem } from '../problems/problem.ts';
import { organisation } from '../session/repository.ts';
import type { Setter } from '../settingsLog/settingsLog.ts';
import { logCalendar } from './calendarLog.ts';
import { countAhead, findAhead, findCalendar, findCalendars, type StoredCalendar } from './repository.ts';

export type Written = TypeOf<typeof contract.written>;
type View = TypeOf<typeof contract.calendar>;

export async function listCalendars(
  context: Context,
  query: { readonly after?: string; readonly limit?: number },
): Promise<unknown> {
  const [limit, cursor] = [query.limit ?? DEFAULT_LIMIT, readCursor(query.after, ['text', 'id'])];
  const rows = await findCalendars(context.dataSource, limit + 1, cursor);
  return toPage(rows, limit, ({ name, id }) => [name, id], toView);
}

export async function getCalendar(connection: Connection, id: string): Promise<View> {
  return toView(await requireCalendar(connection, id));
}

export async function requireCalendar(connection: Connection, id: string): Promise<StoredCalendar> {
  const found = await findCalendar(connection, id);
  if (!found) throw notFound('calendar');
  return found;
}

const toView = (calendar: StoredCalendar): View => ({
  id: calendar.id,
  ...writtenOf(calendar),
  processes: [...calendar.processes],
});

/** A calendar as it is written. */
export const writtenOf = ({ name, workingWeekdays, holidays, holidayNames }: StoredCalendar): Written => ({
  name,
  workingWeekdays: [...workingWeekdays].sort(),
  holidays: [...holidays].sort().map((day) => ({ day, name: holidayNames[day] ?? '' })),
});

/** What of it days are counted by. */
export const countsOf = ({ workingWeekdays, holidays }: Written): Calendar => ({
  workingWeekdays,
  holidays: holidays.map(({ day }) => day),
});

export async function addCalendar(
  { clock }: Context,
  tx: EntityManager,
  asked: Written,
  setter: Setter,
): Promise<View> {
  await requireWritten(tx, asked, null);
  const id = newId(clock.now());
  await tx.getRepository(CalendarEntity).insert({ id, ...storedOf(asked) });
  await logCalendar(tx, null, asked, setter);
  return getCalendar(tx, id);
}

export const storedOf = ({ name, workingWeekdays, holidays }: Written) => ({
  name: name.trim(),
  workingWeekdays: [...workingWeekdays],
  holidays: holidays.map(({ day }) => day),
  holidayNames: Object.fromEntries(holidays.flatMap((one) => (one.name.trim() ? [[one.day, one.name.trim()]] : []))),
});

/** Throws where a calendar cannot be as it is written; `id` is that of one that is changed. */
export async function requireWritten(tx: EntityManager, written: Written, id: string | null): Promise<void> {
  const named = await tx.getRepository(CalendarEntity).findOneBy({ name: written.name.trim() });
  const { workingWeekdays, holidays } = written;
  const twice = holidays.findIndex(({ day }, place) => holidays.findIndex((other) => other.day === day) < place);
  const problems: InputProblem[] = [
    ...(named && named.id !== id
      ? [{ pointer: '/name', detail: `There is already a calendar called “${written.name}”.` }]
      : []),
    ...(workingWeekdays.length === 0
      ? [{ pointer: '/workingWeekdays', detail: 'One weekday at least is a working day.' }]
      : []),
    ...(new Set(workingWeekdays).size < workingWeekdays.length
      ? [{ pointer: '/workingWeekdays', detail: 'A weekday is named twice.' }]
      : []),
    ...(twice >= 0 ? [{ pointer: `/holidays/${twice}/day`, detail: 'This day is a holiday already.' }] : []),
  ];
  if (problems.length > 0) throw invalid(problems);
}

/** A change of the calendar that some processes go by. */
export interface CalendarChange {
  readonly processes: readonly ProcessId[];
  readonly before: Written;
  readonly after: Written;
}

type Asked = TypeOf<typeof contract.asked>;

/** What a change comes to, as things are. */
export async function changeOf(tx: EntityManager, asked: Asked): Promise<CalendarChange> {
  const named = await requireCalendar(tx, asked.calendar);
  if (asked.what === 'calendar') {
    const { what: _what, calendar: _calendar, ...after } = asked;
    await requireWritten(tx, after, asked.calendar);
    return { processes: named.processes.map(({ id }) => id), before: writtenOf(named), after };
  }
  const process = await tx.getRepository(ProcessEntity).findOneBy({ id: asked.process });
  if (!process) throw notFound('process');
  const before = writtenOf(await requireCalendar(tx, process.calendarId));
  return { processes: [process.id], before, after: writtenOf(named) };
}

export const isAlike = (one: unknown, other: unknown): boolean => canonicalText(one) === canonicalText(other);

/** Throws where what is changed is no longer as it was seen. */
export function requireSeen(seen: unknown, now: unknown): void {
  if (!isAlike(seen, now))
    throw new Problem(
      409,
      'Somebody else changed this calendar since you opened it. Open it again to see how it is now.',
    );
}

const NAMED = 100;

/** Which days of open deals a change would move. */
export const calendarEffect = (context: Context, asked: Asked): Promise<TypeOf<typeof contract.effect>> =>
  inTransaction(context, async (tx) => {
    const { processes, before, after } = await changeOf(tx, asked);
    const today = localDay(context.clock.now(), (await organisation(tx)).timeZone);
    const [old, fresh] = [countsOf(before), countsOf(after)];
    const moved = (await countAhead(tx, processes, today)).flatMap((row) => {
      const day = recountedDay(row.day, today, old, fresh);
      return day === row.day ? [] : [{ ...row, after: day }];
    });
    const afterOf = new Map(moved.map((row) => [row.day, row.after]));
    const first = afterOf.size === 0 ? [] : await findAhead(tx, processes, [...afterOf.keys()], NAMED);
    const count = (part: string): number =>
      moved.filter((row) => row.part === part).reduce((sum, row) => sum + row.count, 0);
    return {
      moveOn: count('visit'),
      steps: count('run'),
      tasks: count('task'),
      first: first.map(({ deal, part, name, before: day }) => ({
        deal,
        part,
        name,
        before: day,
        after: afterOf.get(day) ?? day,
      })),
    };
  });
