import { daysBetween, ITEM_NAMES } from '@ladder/core';
import { countOf, shortDay, shortMoney } from '../../parts/format.ts';
import type { DayEntry, DayGroup, DayItem } from './todayApi.ts';

export const GROUP_NAMES: Readonly<Record<DayGroup, string>> = {
  held: 'Held',
  late: 'Overdue',
  today: 'Due today',
  coming: 'Coming',
  nobody: 'Nobody’s',
};

/** In how many words it is late or due, and the tone of it. */
export interface WhyWords {
  readonly says: string;
  readonly note: string;
  readonly tone: 'bad' | 'warn' | 'plain';
}

/** Why something is on the day. */
export function whyOf(item: DayItem, today: string): WhyWords {
  switch (item.kind) {
    case 'held':
      return {
        says: `Held, ${item.findings} to put right`,
        note: `since ${shortDay(item.since, today)}`,
        tone: 'bad',
      };
    case 'waiver':
      return {
        says: `Waiver asked for, ${countOf(item.items, 'thing')}`,
        note: `waiting since ${shortDay(item.dueDay, today)}`,
        tone: 'warn',
      };
    case 'idle':
      return {
        says: `Nothing for ${countOf(daysBetween(item.activeDay, today), 'day')}`,
        note: `since ${shortDay(item.activeDay, today)}, limit ${countOf(item.allowedDays, 'day')}`,
        tone: 'warn',
      };
    case 'past_target':
      return {
        says: `${countOf(daysBetween(item.dueDay, today), 'day')} past its target`,
        note: `to move on by ${shortDay(item.dueDay, today)}`,
        tone: 'warn',
      };
    case 'step':
    case 'task':
    case 'next_action':
    case 'follow_up':
      return dueWords(item, today);
  }
}

type Due = Extract<DayItem, { kind: 'step' | 'task' | 'next_action' | 'follow_up' }>;

function dueWords(item: Due, today: string): WhyWords {
  const kind = ITEM_NAMES[item.kind];
  if (item.dueDay === null) return { says: `${kind} at hand`, note: 'due on no day', tone: 'plain' };
  const late = daysBetween(item.dueDay, today);
  const time = item.kind === 'task' && item.dueTime ? `, ${item.dueTime}` : '';
  const on = shortDay(item.dueDay, today);
  if (late > 0) return { says: `${kind} ${countOf(late, 'day')} late`, note: `due since ${on}`, tone: 'bad' };
  if (late === 0)
    return {
      says: `${kind} due today${time}`,
      note: item.kind === 'step' && item.owed === 'yes' ? 'owed' : '',
      tone: 'plain',
    };
  return { says: `${kind} due ${on}${time}`, note: `in ${countOf(-late, 'day')}`, tone: 'plain' };
}

/** One line that says why a deal stands where it does. */
export function whyHere({ group, daysLate, weightedMinor }: DayEntry, place: number, currency: string): string {
  const stake = weightedMinor > 0 ? `, ${shortMoney(weightedMinor, currency)} weighted at stake` : '';
  const first = place === 0 ? 'First: ' : '';
  switch (group) {
    case 'held':
      return `${first}held for ${countOf(daysLate, 'day')}${stake}.`;
    case 'late':
      return `${first}${countOf(daysLate, 'day')} late${stake}.`;
    case 'today':
      return `${first}due today${stake}.`;
    case 'coming':
      return `${first}nothing of it is due yet${stake}.`;
    case 'nobody':
      return `${first}nobody has taken it yet${stake}.`;
  }
}
