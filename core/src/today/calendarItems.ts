import type { Setting } from '../deals/setting.ts';
import type { Day } from '../time/day.ts';
import type { DayItem, FollowUpItem, NextActionItem, StepItem, TaskItem } from './dayItem.ts';
import { type DealAtHand, itemsUntil } from './dealDay.ts';

/** The day on which a deal is expected to close. */
export interface CloseDateItem {
  readonly kind: 'close_date';
  readonly dueDay: Day;
  readonly person: string | null;
}

/** What stands on a day of a calendar. */
export type CalendarItem =
  | (StepItem & { readonly dueDay: Day })
  | TaskItem
  | NextActionItem
  | FollowUpItem
  | CloseDateItem;

export const CALENDAR_KINDS = [
  'step',
  'task',
  'next_action',
  'follow_up',
  'close_date',
] as const satisfies readonly CalendarItem['kind'][];

/** What is due about a deal from one day to another, both counted. */
export function calendarItems(
  deal: DealAtHand & { readonly closeDate: Day | null },
  setting: Pick<Setting, 'document'>,
  from: Day,
  to: Day,
): readonly CalendarItem[] {
  const { status, closeDate, owner: person } = deal;
  const closes: readonly CalendarItem[] =
    status === 'open' && closeDate !== null ? [{ kind: 'close_date', dueDay: closeDate, person }] : [];
  const due = itemsUntil(deal, setting, from, to).filter(isOnADay);
  return [...due, ...closes].filter(({ dueDay }) => dueDay >= from && dueDay <= to);
}

const isOnADay = (item: DayItem): item is Exclude<CalendarItem, CloseDateItem> =>
  item.kind !== 'held' &&
  item.kind !== 'waiver' &&
  item.kind !== 'past_target' &&
  item.kind !== 'idle' &&
  item.dueDay !== null;
