import { type Day, daysBetween } from '../time/day.ts';
import { DAY_ITEM_KINDS, type DayItem, type DayItemKind } from './dayItem.ts';

/** The parts of a day, by consequence: what stands above is worth more of the morning. */
export const DAY_GROUPS = ['held', 'late', 'today', 'coming', 'nobody'] as const;
export type DayGroup = (typeof DAY_GROUPS)[number];

/** A deal with everything that there is to do about it. */
export interface DealDay {
  readonly deal: string;
  /** Value times chance, in minor units of one currency; 0 where it has no value, or no rate. */
  readonly weightedMinor: number;
  readonly items: readonly DayItem[];
}

/** A deal as it stands on a day: once, under its strongest reason. */
export interface DayEntry<D extends DealDay> {
  readonly of: D;
  readonly group: DayGroup;
  /** Of the strongest reason; a held deal is late from the day on which it came to be held. */
  readonly daysLate: number;
  readonly item: DayItem;
  /** What else there is, the strongest first. */
  readonly others: readonly DayItem[];
}

export const DAY_ORDERS = ['consequence', 'due'] as const;
export type DayOrder = (typeof DAY_ORDERS)[number];

/**
 * The deals of a day in order. By consequence (S59): held, late, due today, coming, and nobody's last; in each group by days late
 * times weighted value, then due day, weighted value and id, so that nothing that is late and worth more stands below something that
 * is neither. By due day: the earliest first, what is due on no day last. `isMine` says of whom an item has to be.
 */
export function dayEntries<D extends DealDay>(
  deals: readonly D[],
  today: Day,
  order: DayOrder,
  isMine: (person: string) => boolean,
): readonly DayEntry<D>[] {
  const entries = deals.flatMap((deal) => entryOf(deal, today, isMine) ?? []);
  return entries.sort(order === 'consequence' ? byConsequence : byDue);
}

function entryOf<D extends DealDay>(of: D, today: Day, isMine: (person: string) => boolean): DayEntry<D> | null {
  const mine = of.items.filter(({ person }) => person !== null && isMine(person));
  const nobodys = of.items.filter(({ person }) => person === null);
  const [item, ...others] = [...mine.sort(byStrength(today)), ...nobodys.sort(byStrength(today))];
  if (!item) return null;
  const group = item.person === null ? 'nobody' : groupOf(item, today);
  return { of, group, daysLate: daysLateOf(item, today), item, others };
}

const groupOf = (item: DayItem, today: Day): Exclude<DayGroup, 'nobody'> => {
  if (item.kind === 'held') return 'held';
  if (item.dueDay === null || item.dueDay > today) return 'coming';
  return item.dueDay < today ? 'late' : 'today';
};

/** What somebody can do at once is a stronger reason than what a deal merely is. */
const PASSIVE: readonly DayItemKind[] = ['past_target', 'idle'];

const byStrength =
  (today: Day) =>
  (a: DayItem, b: DayItem): number =>
    DAY_GROUPS.indexOf(groupOf(a, today)) - DAY_GROUPS.indexOf(groupOf(b, today)) ||
    Number(PASSIVE.includes(a.kind)) - Number(PASSIVE.includes(b.kind)) ||
    compare(dueKey(a), dueKey(b)) ||
    DAY_ITEM_KINDS.indexOf(a.kind) - DAY_ITEM_KINDS.indexOf(b.kind);

/** Days that something is late: from the day after its due day; of a held deal, with the day on which that began. */
export const daysLateOf = (item: DayItem, today: Day): number => {
  if (item.kind === 'held') return Math.max(1, daysBetween(item.since, today) + 1);
  return item.dueDay === null ? 0 : Math.max(0, daysBetween(item.dueDay, today));
};

const NEVER = '9999-99-99';

/** Day and time, as a text that orders them; a day without a time comes after those that have one. */
function dueKey(item: DayItem): string {
  if (item.kind === 'held') return item.since;
  return `${item.dueDay ?? NEVER} ${(item.kind === 'task' && item.dueTime) || '24:00'}`;
}

function byConsequence(a: DayEntry<DealDay>, b: DayEntry<DealDay>): number {
  return (
    DAY_GROUPS.indexOf(a.group) - DAY_GROUPS.indexOf(b.group) ||
    b.daysLate * b.of.weightedMinor - a.daysLate * a.of.weightedMinor ||
    byDue(a, b)
  );
}

const byDue = (a: DayEntry<DealDay>, b: DayEntry<DealDay>): number =>
  compare(dueKey(a.item), dueKey(b.item)) || b.of.weightedMinor - a.of.weightedMinor || compare(a.of.deal, b.of.deal);

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
