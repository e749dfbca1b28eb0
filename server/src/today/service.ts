import type { today as contract, TypeOf } from '@ladder/contract';
import {
  addDays,
  DAY_GROUPS,
  DAYS_AHEAD,
  type DayEntry,
  type DayItem,
  type DayOrder,
  type DealDay,
  dayEntries,
  itemsOfDeal,
  localDay,
  placeOf,
  stageOf,
  weightOfDeal,
} from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { type Context, inTransaction } from '../context.ts';
import { DEFAULT_LIMIT, readCursor } from '../http/pages.ts';
import type { Person } from '../session/person.ts';
import { organisation } from '../session/repository.ts';
import { type KnownSetting, loadSettings } from '../setting/repository/settings.ts';
import { countDone, type DayDealRow, findDayDeals, findDone, findNames, type Whose } from './repository.ts';
import { type AskedWhose, whoseDay } from './whose.ts';

type Day = TypeOf<typeof contract.day>;
type EntryView = TypeOf<typeof contract.entry>;

interface Asked extends AskedWhose {
  readonly order?: DayOrder;
  readonly after?: string;
  readonly limit?: number;
}

interface DayDeal extends DealDay {
  readonly row: DayDealRow;
  readonly setting: KnownSetting;
}

/** A person's or a team's day, a page at a time. Nothing of it is stored: it is what is so as it is read (S59). */
export const getToday = (context: Context, viewer: Person, asked: Asked): Promise<Day> =>
  inTransaction(context, async (tx) => {
    const whose = await whoseDay(tx, viewer, asked);
    const { today, currency, entries } = await readDay(context, tx, viewer, whose, asked.order ?? 'consequence');
    const begin = placeAfter(entries, asked.after);
    const shown = entries.slice(begin, begin + (asked.limit ?? DEFAULT_LIMIT));
    const end = begin + shown.length;
    const last = shown.at(-1);
    return {
      today,
      currency,
      whose: { kind: whose.kind, id: whose.id, name: whose.name, alsoFor: await findNames(tx, awayOf(whose)) },
      counts: countGroups(entries),
      done: await countDone(tx, doersOf(whose), today),
      items: shown.map(presentEntry),
      names: await findNames(tx, [...new Set(shown.flatMap(peopleOf))]),
      next: last && end < entries.length ? mark(last, end) : null,
    };
  });

/** How many of one's own deals are held or late. */
export const countLate = (context: Context, viewer: Person): Promise<TypeOf<typeof contract.late>> =>
  inTransaction(context, async (tx) => {
    const { entries } = await readDay(context, tx, viewer, await whoseDay(tx, viewer, {}), 'due');
    const { held, late } = countGroups(entries);
    return { held, late };
  });

/** What was done today. */
export const listDone = (context: Context, viewer: Person, asked: AskedWhose): Promise<TypeOf<typeof contract.done>> =>
  inTransaction(context, async (tx) => {
    const people = doersOf(await whoseDay(tx, viewer, asked));
    const today = localDay(context.clock.now(), (await organisation(tx)).timeZone);
    const rows = await findDone(tx, viewer, people, today);
    return {
      items: rows.map(({ deal, name, what, how, at }) => ({
        deal: { id: deal, name },
        what,
        how,
        at: at.toISOString(),
      })),
    };
  });

async function readDay(context: Context, tx: EntityManager, viewer: Person, whose: Whose, order: DayOrder) {
  const now = context.clock.now();
  const { timeZone: zone, currency } = await organisation(tx);
  const today = localDay(now, zone);
  const rows = await findDayDeals(tx, viewer, whose, { now, zone, until: addDays(today, DAYS_AHEAD) });
  const settings = await loadSettings(
    tx,
    rows.map(({ version }) => version),
  );
  const deals = rows.flatMap((row): DayDeal[] => {
    const setting = settings.get(row.version);
    if (!setting) return [];
    const items = itemsOfDeal(row, setting, today, whose.decider);
    return items.length === 0 ? [] : [{ deal: row.id, weightedMinor: weightOfDeal(row, setting), items, row, setting }];
  });
  const isMine = whose.kind === 'team' ? () => true : (person: string) => whose.people.includes(person);
  return { today, currency, entries: dayEntries(deals, today, order, isMine) };
}

/** People who are away, of whom the day tells too. */
const awayOf = ({ kind, id, people }: Whose): readonly string[] =>
  kind === 'team' ? [] : people.filter((one) => one !== id);

/** Whose doings are counted: what is done for someone who is away is done by whom it was done. */
const doersOf = ({ kind, id, people }: Whose): readonly string[] => (kind === 'team' ? people : [id]);

type Entry = DayEntry<DayDeal>;

function countGroups(entries: readonly Entry[]): Day['counts'] {
  const counts = Object.fromEntries(DAY_GROUPS.map((group) => [group, 0])) as Record<
    (typeof DAY_GROUPS)[number],
    number
  >;
  for (const { group } of entries) counts[group] += 1;
  return counts;
}

/** Where a page begins: after the deal that the one before ended with, or where that was if it is done meanwhile. */
function placeAfter(entries: readonly Entry[], after: string | undefined): number {
  const cursor = readCursor(after, ['id', 'number']);
  if (!cursor) return 0;
  const [last, place] = cursor;
  const found = entries.findIndex(({ of }) => of.deal === last);
  return found < 0 ? Math.max(0, place - 1) : found + 1;
}

const mark = ({ of }: Entry, place: number): string =>
  Buffer.from(JSON.stringify([of.deal, place])).toString('base64url');

const peopleOf = ({ of, item, others }: Entry): readonly string[] =>
  [of.row.owner, ...[item, ...others].flatMap(namedIn)].filter((id) => id !== null);

const namedIn = (item: DayItem): readonly (string | null)[] =>
  item.kind === 'waiver' ? [item.person, item.askedBy] : [item.person];

function presentEntry({ of, group, daysLate, item, others }: Entry): EntryView {
  const { row, setting, weightedMinor } = of;
  const { document } = setting;
  return {
    deal: {
      id: row.id,
      name: row.name,
      customer: row.customer,
      process: { id: row.process, name: row.processName },
      stage: {
        id: row.stage,
        name: stageOf(document, row.stage)?.name ?? '',
        place: Math.max(0, placeOf(document, row.stage)),
        of: document.stages.length,
      },
      status: row.status,
      reason: row.reason,
      owner: row.owner,
      value: row.value,
    },
    group,
    daysLate,
    weightedMinor,
    item,
    others,
  };
}
