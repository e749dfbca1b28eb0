import { createHash, randomBytes } from 'node:crypto';
import type { today as contract, TypeOf } from '@ladder/contract';
import {
  addDays,
  type CalendarItem,
  calendarItems,
  ITEM_NAMES,
  instantOf,
  itemTitle,
  localDay,
  stageOf,
} from '@ladder/core';
import ical, { ICalCalendarMethod, ICalEventTransparency } from 'ical-generator';
import { type Context, inCommand, inTransaction } from '../context.ts';
import { CalendarFeedEntity } from '../db/entities/calendarFeed.ts';
import { at, manager } from '../db/sql.ts';
import { findAccountWithAccess } from '../people/repository.ts';
import { notFound } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { type DayDealRow, findDayDeals } from './repository.ts';
import { whoseDay } from './whose.ts';

type Feed = TypeOf<typeof contract.feed>;

const SECRET_BYTES = 24;
const DAYS_BACK = 30;
const DAYS_ON = 365;
/** Programs ask again after so long. */
const REFRESHED_AFTER_S = 3_600;

const hashOf = (secret: string): Buffer => createHash('sha256').update(secret).digest();

/** Makes a person's feed, or another address for it; the one before is revoked. The address is told this once (S64). */
export const makeFeed = (context: Context, person: Person): Promise<TypeOf<typeof contract.newFeed>> =>
  inCommand(context, async (tx) => {
    const secret = randomBytes(SECRET_BYTES).toString('base64url');
    const madeAt = at(context.clock.now());
    await tx
      .getRepository(CalendarFeedEntity)
      .upsert({ personId: person.id, secretHash: hashOf(secret), madeAt, readAt: null }, ['personId']);
    return { path: `/api/v1/calendar.ics?key=${secret}`, madeAt: madeAt.toISOString() };
  });

export async function getFeed(context: Context, person: Person): Promise<Feed> {
  const row = await manager(context.dataSource).getRepository(CalendarFeedEntity).findOneBy({ personId: person.id });
  return { madeAt: row?.madeAt.toISOString() ?? null, readAt: row?.readAt?.toISOString() ?? null };
}

export const revokeFeed = (context: Context, person: Person): Promise<unknown> =>
  inCommand(context, (tx) => tx.getRepository(CalendarFeedEntity).delete({ personId: person.id }));

/** What the feed of a secret address shows now: only what its person may see now (RFC 5545, RFC 7986). */
export const readFeed = (context: Context, secret: string, origin: string): Promise<string> =>
  inTransaction(context, async (tx) => {
    const feeds = tx.getRepository(CalendarFeedEntity);
    const secretHash = hashOf(secret);
    const feed = await feeds.findOneBy({ secretHash });
    const account = feed && (await findAccountWithAccess(tx, feed.personId));
    if (!account?.active || account.role === 'viewer') throw notFound('calendar');
    const now = context.clock.now();
    await feeds.update({ secretHash }, { readAt: at(now) });
    const { timeZone: zone, name } = await organisation(tx);
    const [from, to] = [addDays(localDay(now, zone), -DAYS_BACK), addDays(localDay(now, zone), DAYS_ON)];
    const rows = await findDayDeals(tx, account, await whoseDay(tx, account, {}), { now, zone, until: to });
    const settings = await loadSettings(
      tx,
      rows.map(({ version }) => version),
    );
    const calendar = ical({
      prodId: { company: 'Dusty Ladder', product: 'Calendar', language: 'EN' },
      name: `${account.name}, ${name}`,
      description: 'Steps, tasks, next actions, follow-ups and close dates',
      method: ICalCalendarMethod.PUBLISH,
      ttl: REFRESHED_AFTER_S,
    });
    for (const row of rows) {
      const setting = settings.get(row.version);
      const items = setting ? calendarItems(row, setting, from, to) : [];
      const stage = (setting && stageOf(setting.document, row.stage)?.name) ?? '';
      for (const item of items)
        if (item.person === account.id) calendar.createEvent(eventOf(row, stage, item, { zone, origin }));
    }
    return calendar.toString();
  });

/** An item keeps its UID for ever; its SEQUENCE rises with whatever is written down about its deal. */
function eventOf(
  row: DayDealRow,
  stage: string,
  item: CalendarItem,
  { zone, origin }: { zone: string; origin: string },
) {
  const isTimed = item.kind === 'task' && item.dueTime !== null;
  const start = isTimed ? instantOf(item.dueDay, item.dueTime ?? '', zone) : Date.parse(`${item.dueDay}T00:00:00Z`);
  return {
    id: `${row.id}.${keyOf(item)}@dusty-ladder.invalid`,
    sequence: row.written,
    stamp: row.settledAt,
    lastModified: row.settledAt,
    start: new Date(start),
    ...(isTimed ? { end: new Date(start + HALF_HOUR_MS) } : { allDay: true }),
    summary: `${itemTitle(item)} · ${row.name}`,
    description: [row.customer, stage].filter((part) => part).join(', '),
    url: `${origin}/deals/${row.id}`,
    transparency: ICalEventTransparency.TRANSPARENT,
    categories: [{ name: ITEM_NAMES[item.kind] }],
  };
}

const HALF_HOUR_MS = 1_800_000;

function keyOf(item: CalendarItem): string {
  switch (item.kind) {
    case 'step':
      return `step-${item.run}`;
    case 'task':
      return `task-${item.task}`;
    case 'next_action':
    case 'follow_up':
    case 'close_date':
      return item.kind;
  }
}
