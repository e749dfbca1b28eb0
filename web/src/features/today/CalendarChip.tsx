import { useDraggable } from '@dnd-kit/core';
import { CSS } from '@dnd-kit/utilities';
import { itemTitle } from '@ladder/core';
import type { KeyboardEvent } from 'react';
import { useSession } from '../../client/session.ts';
import type { CalendarEntry } from './todayApi.ts';

interface CalendarChipProps {
  readonly entry: CalendarEntry;
  readonly names: ReadonlyMap<string, string>;
  readonly onMove: (entry: CalendarEntry, by: number) => void;
  readonly onOpen: (entry: CalendarEntry) => void;
}

/** What tells one thing on a calendar from another. */
export function chipId({ deal, item }: CalendarEntry): string {
  const which = item.kind === 'step' ? item.run : item.kind === 'task' ? item.task : '';
  return `${deal.id} ${item.kind} ${which}`;
}

const BY: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };

/** One thing that is due: carried to another day, by hand or with Alt and the arrow keys, or opened to be told more. */
export function CalendarChip({ entry, names, onMove, onOpen }: CalendarChipProps) {
  const { person, organisation } = useSession();
  const { setNodeRef, transform, listeners, attributes, isDragging } = useDraggable({ id: chipId(entry) });
  const { deal, item } = entry;
  const { role: _role, 'aria-roledescription': _words, ...draggable } = attributes;
  const press = (event: KeyboardEvent) => {
    const by = event.altKey ? BY[event.key] : undefined;
    if (by === undefined) return;
    event.preventDefault();
    onMove(entry, by);
  };
  const isLate = item.dueDay < organisation.today && item.kind !== 'close_date';
  const whose = item.person !== null && item.person !== person.id ? names.get(item.person) : undefined;
  const time = item.kind === 'task' && item.dueTime ? `${item.dueTime} ` : '';
  return (
    <li>
      <button
        type="button"
        ref={setNodeRef}
        style={{ transform: CSS.Translate.toString(transform) }}
        className={`chip ${item.kind} ${isLate ? 'late' : ''} ${isDragging ? 'dragged' : ''}`}
        id={`chip-${chipId(entry).replaceAll(' ', '-')}`}
        {...draggable}
        {...listeners}
        onKeyDown={press}
        onClick={() => onOpen(entry)}
      >
        <b>
          {time}
          {itemTitle(item)}
          {isLate && <span className="visually-hidden">, late</span>}
        </b>
        <span>{[deal.name, whose].filter((part) => part).join(' · ')}</span>
      </button>
    </li>
  );
}
