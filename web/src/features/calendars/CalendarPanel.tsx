import type { Holiday } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { useUnsaved } from '../../parts/AsksBeforeLeaving.tsx';
import { useFollowed } from '../../parts/useFollowed.ts';
import { WorkUnderWay } from '../work/WorkProgress.tsx';
import { CalendarChangeDialog } from './CalendarChangeDialog.tsx';
import { useChangeCalendarMutation, type WorkingCalendar, type WrittenCalendar } from './calendarsApi.ts';
import { WEEKDAYS } from './calendarWords.ts';
import { HolidayFileDialog } from './HolidayFileDialog.tsx';
import { HolidayList } from './HolidayList.tsx';

const writtenOf = ({ name, workingWeekdays, holidays }: WorkingCalendar): WrittenCalendar => ({
  name,
  workingWeekdays,
  holidays,
});

/** One calendar, to be changed; what that moves is shown before it is done. */
export function CalendarPanel({ calendar }: { calendar: WorkingCalendar }) {
  const [seen, setSeen] = useState(() => writtenOf(calendar));
  const [written, setWritten] = useState(seen);
  const [isConfirming, setConfirming] = useState(false);
  const [isTaking, setTaking] = useState(false);
  const [change] = useChangeCalendarMutation();
  const isChanged = JSON.stringify(written) !== JSON.stringify(seen);
  useUnsaved(isChanged);
  useFollowed(calendar, isChanged, (present) => {
    setSeen(writtenOf(present));
    setWritten(writtenOf(present));
  });
  const set = (part: Partial<WrittenCalendar>) => setWritten({ ...written, ...part });
  const addHolidays = (added: readonly Holiday[]) => set({ holidays: inOrder([...written.holidays, ...added]) });
  const problem = problemOf(written);
  return (
    <aside className="design-panel side-panel" aria-label={calendar.name}>
      <h2>{calendar.name}</h2>
      {!isConfirming && <WorkUnderWay subject="calendars" />}
      <Form.Group controlId="calendar-name" className="mb-2">
        <Form.Label>Name</Form.Label>
        <Form.Control value={written.name} maxLength={200} onChange={(event) => set({ name: event.target.value })} />
      </Form.Group>
      <Weekdays chosen={written.workingWeekdays} onChange={(workingWeekdays) => set({ workingWeekdays })} />
      <section>
        <header>
          <h3>
            Holidays <small>{written.holidays.length}</small>
          </h3>
          <Button variant="link" onClick={() => setTaking(true)}>
            From a file
          </Button>
        </header>
        <AddHoliday known={written.holidays} onAdd={(holiday) => addHolidays([holiday])} />
        <HolidayList
          holidays={written.holidays}
          onRemove={(day) => set({ holidays: written.holidays.filter((one) => one.day !== day) })}
        />
      </section>
      <UsedBy calendar={calendar} />
      {problem && <div className="text-held small">{problem}</div>}
      {isChanged && (
        <div className="panel-foot mt-2 calendar-foot">
          <Button size="sm" disabled={problem !== null} onClick={() => setConfirming(true)}>
            See what moves…
          </Button>
          <Button size="sm" variant="outline-secondary" onClick={() => setWritten(seen)}>
            Discard
          </Button>
        </div>
      )}
      {isTaking && <HolidayFileDialog known={written.holidays} onTake={addHolidays} onClose={() => setTaking(false)} />}
      {isConfirming && (
        <CalendarChangeDialog
          title={`Change ${seen.name}`}
          confirm="Change the calendar"
          asked={{ what: 'calendar', calendar: calendar.id, ...written }}
          change={() => change({ id: calendar.id, body: { ...written, saw: seen } })}
          onDone={() => {
            setSeen(written);
            setConfirming(false);
          }}
          onClose={() => setConfirming(false)}
        />
      )}
    </aside>
  );
}

const inOrder = (holidays: readonly Holiday[]): readonly Holiday[] =>
  [...holidays].sort((a, b) => (a.day < b.day ? -1 : 1));

function problemOf({ name, workingWeekdays }: WrittenCalendar): string | null {
  if (name.trim() === '') return 'A calendar has a name.';
  return workingWeekdays.length === 0 ? 'One weekday at least is a working day.' : null;
}

export function Weekdays({
  chosen,
  onChange,
}: {
  chosen: readonly number[];
  onChange: (days: readonly number[]) => void;
}) {
  return (
    <fieldset className="weekdays mb-2">
      <legend>Working days</legend>
      {WEEKDAYS.map((name, place) => (
        <Form.Check
          key={name}
          inline
          id={`weekday-${place + 1}`}
          label={name.slice(0, 3)}
          aria-label={name}
          checked={chosen.includes(place + 1)}
          onChange={({ target }) =>
            onChange(target.checked ? [...chosen, place + 1].sort() : chosen.filter((weekday) => weekday !== place + 1))
          }
        />
      ))}
    </fieldset>
  );
}

function AddHoliday({ known, onAdd }: { known: readonly Holiday[]; onAdd: (holiday: Holiday) => void }) {
  const [day, setDay] = useState('');
  const [name, setName] = useState('');
  const isKnown = known.some((holiday) => holiday.day === day);
  const add = () => {
    if (day === '' || isKnown) return;
    onAdd({ day, name: name.trim() });
    setDay('');
    setName('');
  };
  return (
    <Form
      className="holiday-add"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <Form.Control
        size="sm"
        type="date"
        aria-label="Day of the holiday"
        isInvalid={isKnown}
        value={day}
        onChange={(event) => setDay(event.target.value)}
      />
      <Form.Control
        size="sm"
        aria-label="Name of the holiday"
        placeholder="What it is called"
        maxLength={200}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" size="sm" variant="outline-secondary" disabled={day === '' || isKnown}>
        Add
      </Button>
      {isKnown && <span className="text-held small">This day is a holiday already.</span>}
    </Form>
  );
}

function UsedBy({ calendar: { processes } }: { calendar: WorkingCalendar }) {
  return (
    <section>
      <header>
        <h3>Processes that go by it</h3>
      </header>
      {processes.length === 0 && <p className="muted small">None yet. A process chooses it on its design sheet.</p>}
      {processes.map(({ id, name }) => (
        <div key={id} className="small panel-link">
          <Link to={`/processes/${id}`}>{name}</Link>
        </div>
      ))}
    </section>
  );
}
