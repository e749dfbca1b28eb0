import { DndContext, type DragEndEvent, PointerSensor, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import { addDays } from '@ladder/core';
import { Link, useLocation } from 'react-router';
import { useSession } from '../../client/session.ts';
import { CalendarChip, chipId } from './CalendarChip.tsx';
import type { View } from './calendarDays.ts';
import type { CalendarEntry, DueCalendar } from './todayApi.ts';
import { useCalendarMove } from './useCalendarMove.tsx';

interface CalendarGridProps {
  readonly view: View;
  readonly days: readonly string[];
  /** Days of other months are paler. */
  readonly month: string;
  readonly calendar: DueCalendar;
}

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;
/** As many fit into a day of a month; the others are on its week. */
const SHOWN_A_DAY = 4;

const DRAG_WORDS = {
  screenReaderInstructions: {
    draggable: 'Alt with the arrow keys moves it by a day or a week. Enter tells more, and moves it to any day.',
  },
};

/** A week, or the weeks of a month: a column a weekday, a cell a day, and what is due on it. */
export function CalendarGrid({ view, days, month, calendar }: CalendarGridProps) {
  const mover = useCalendarMove();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const drop = ({ active, over }: DragEndEvent) => {
    const entry = calendar.items.find((one) => chipId(one) === active.id);
    if (entry && over && over.id !== entry.item.dueDay) mover.move(entry, String(over.id));
  };
  const names = new Map(calendar.names.map(({ id, name }) => [id, name] as const));
  return (
    <DndContext sensors={sensors} onDragEnd={drop} accessibility={DRAG_WORDS}>
      <div className={`calendar ${view}`}>
        {WEEKDAYS.map((name) => (
          <div key={name} className="weekday" aria-hidden>
            {name}
          </div>
        ))}
        {days.map((day) => (
          <DayCell
            key={day}
            day={day}
            place={day.startsWith(month) ? 'inside' : 'outside'}
            entries={calendar.items.filter(({ item }) => item.dueDay === day)}
            most={view === 'month' ? SHOWN_A_DAY : Number.POSITIVE_INFINITY}
            names={names}
            onMove={(entry, by) => mover.move(entry, addDays(entry.item.dueDay, by))}
            onOpen={mover.open}
          />
        ))}
      </div>
      {calendar.left > 0 && <p className="small muted px-4">And {calendar.left} more, which are not shown here.</p>}
      <div className="visually-hidden" role="status">
        {mover.said}
      </div>
      {mover.dialog}
    </DndContext>
  );
}

interface DayCellProps {
  readonly day: string;
  readonly place: 'inside' | 'outside';
  readonly entries: readonly CalendarEntry[];
  readonly most: number;
  readonly names: ReadonlyMap<string, string>;
  readonly onMove: (entry: CalendarEntry, by: number) => void;
  readonly onOpen: (entry: CalendarEntry) => void;
}

function DayCell({ day, place, entries, most, names, onMove, onOpen }: DayCellProps) {
  const { organisation } = useSession();
  const { search } = useLocation();
  const { setNodeRef, isOver } = useDroppable({ id: day });
  const shown = entries.length > most ? entries.slice(0, most - 1) : entries;
  const week = new URLSearchParams(search);
  week.set('on', day);
  const classes = [day === organisation.today ? 'today' : '', place, isOver ? 'over' : ''].filter((part) => part);
  return (
    <section ref={setNodeRef} className={`day ${classes.join(' ')}`} aria-label={longDay(day)}>
      <div className="date" aria-hidden>
        {Number(day.slice(8))}
      </div>
      <ul>
        {shown.map((entry) => (
          <CalendarChip key={chipId(entry)} entry={entry} names={names} onMove={onMove} onOpen={onOpen} />
        ))}
      </ul>
      {shown.length < entries.length && (
        <Link className="small" to={`/today/week?${week}`}>
          {entries.length - shown.length} more
        </Link>
      )}
    </section>
  );
}

const longDay = (day: string): string =>
  new Date(`${day}T00:00Z`).toLocaleDateString('en-GB', {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    timeZone: 'UTC',
  });
