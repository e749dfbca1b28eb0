import type { CalendarEntry } from './todayApi.ts';

type Item = CalendarEntry['item'];

export const KIND_NAMES: Readonly<Record<Item['kind'], string>> = {
  step: 'Step',
  task: 'Task',
  next_action: 'Next action',
  follow_up: 'Follow-up',
  close_date: 'Close date',
};

/** What stands on the day. */
export function titleOf(item: Item): string {
  switch (item.kind) {
    case 'step':
      return item.name;
    case 'task':
      return item.title || 'A task whose words were erased';
    case 'next_action':
      return item.text;
    case 'follow_up':
      return 'Come back to them';
    case 'close_date':
      return 'Closes';
  }
}
