import type { CalendarItem } from './calendarItems.ts';
import type { DayItem } from './dayItem.ts';

type Kind = (DayItem | CalendarItem)['kind'];

/** What each kind of item is called. */
export const ITEM_NAMES: Readonly<Record<Kind, string>> = {
  step: 'Step',
  task: 'Task',
  next_action: 'Next action',
  follow_up: 'Follow-up',
  held: 'Held',
  waiver: 'Waiver',
  past_target: 'Past target',
  idle: 'Gone quiet',
  close_date: 'Close date',
};

/** What of an item its title is made of. */
type Titled =
  | { readonly kind: 'step'; readonly name: string }
  | { readonly kind: 'task'; readonly title: string }
  | { readonly kind: 'next_action'; readonly text: string }
  | { readonly kind: Exclude<Kind, 'step' | 'task' | 'next_action'> };

/** What there is to do, in a few words: the same on Today, in the calendar and in the feed. */
export function itemTitle(item: Titled): string {
  switch (item.kind) {
    case 'step':
      return item.name;
    case 'task':
      return item.title || 'A task whose words were erased';
    case 'next_action':
      return item.text;
    case 'held':
      return 'Put right what holds it';
    case 'waiver':
      return 'Decide on a waiver';
    case 'follow_up':
      return 'Come back to them';
    case 'past_target':
      return 'Move it on, or say why not';
    case 'idle':
      return 'Call, or set a next step';
    case 'close_date':
      return 'Closes';
  }
}
