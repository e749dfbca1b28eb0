import type { today as contract, TypeOf } from '@ladder/contract';
import { type CalendarItem, calendarItems, daysBetween, localDay, stageOf } from '@ladder/core';
import { type Context, inTransaction } from '../context.ts';
import { invalid } from '../problems/problem.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { loadSettings } from '../setting/repository/settings.ts';
import { type DayDealRow, findDayDeals, findNames } from './repository.ts';
import { type AskedWhose, whoseDay } from './whose.ts';

interface Asked extends AskedWhose {
  readonly from: string;
  readonly to: string;
}

const MOST_DAYS = 62;
/** More than these no month shows. */
const MOST_ITEMS = 2_000;

/** What is due on which day for a person or a team. */
export function getCalendar(context: Context, viewer: Person, asked: Asked): Promise<TypeOf<typeof contract.calendar>> {
  const { from, to } = asked;
  const days = daysBetween(from, to);
  if (days < 0 || days >= MOST_DAYS)
    throw invalid([
      { pointer: '/query/to', detail: `Ask for at most ${MOST_DAYS} days, the last not before the first.` },
    ]);
  return inTransaction(context, async (tx) => {
    const whose = await whoseDay(tx, viewer, asked);
    const now = context.clock.now();
    const { timeZone: zone } = await organisation(tx);
    const rows = await findDayDeals(tx, viewer, whose, { now, zone, until: to });
    const settings = await loadSettings(
      tx,
      rows.map(({ version }) => version),
    );
    const isTheirs = ({ person }: CalendarItem): boolean =>
      whose.kind === 'team' || (person !== null && whose.people.includes(person));
    const all = rows.flatMap((row) => {
      const setting = settings.get(row.version);
      const items = setting ? calendarItems(row, setting, from, to).filter(isTheirs) : [];
      const stage = (setting && stageOf(setting.document, row.stage)?.name) ?? '';
      return items.map((item) => ({ deal: presentDeal(row, stage), item }));
    });
    const shown = all.sort(byDay).slice(0, MOST_ITEMS);
    return {
      today: localDay(now, zone),
      items: shown,
      left: all.length - shown.length,
      names: await findNames(tx, [...new Set(shown.flatMap(({ item }) => item.person ?? []))]),
    };
  });
}

const presentDeal = ({ id, name, status }: DayDealRow, stage: string) => ({
  id,
  name,
  stage,
  status,
});

interface OnADay {
  readonly deal: { readonly id: string };
  readonly item: CalendarItem;
}

const keyOf = ({ deal, item }: OnADay): string =>
  `${item.dueDay} ${(item.kind === 'task' && item.dueTime) || '24:00'} ${deal.id}`;

const byDay = (a: OnADay, b: OnADay): number => (keyOf(a) < keyOf(b) ? -1 : 1);
