import '../../style/panel.css';
import './calendars.css';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { AsksBeforeLeaving } from '../../parts/AsksBeforeLeaving.tsx';
import { DesignPages } from '../../parts/DesignPages.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { FormDialog } from '../../parts/form/FormDialog.tsx';
import { TextField } from '../../parts/form/TextField.tsx';
import { useBodyForm } from '../../parts/form/useBodyForm.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { CalendarPanel } from './CalendarPanel.tsx';
import { useAddCalendarMutation, useGetCalendarsQuery, type WorkingCalendar } from './calendarsApi.ts';
import { weekWords } from './calendarWords.ts';

/** Which days are working days: calendars that processes share. */
export function CalendarsPage() {
  const { person } = useSession();
  if (person.role !== 'administrator')
    return (
      <div className="empty">
        <h2>Calendars are for administrators</h2>
      </div>
    );
  return <Calendars />;
}

function Calendars() {
  const [search, setSearch] = useSearchParams();
  const [isAdding, setAdding] = useState(false);
  const { data, error } = useGetCalendarsQuery();
  const calendars = data?.items ?? [];
  const open = calendars.find(({ id }) => id === search.get('calendar')) ?? calendars[0];
  const choose = (calendar: string) => setSearch({ calendar });
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">Which days count where days are counted in working days</div>
          <h1>Calendars</h1>
        </div>
        <DesignPages />
        <div className="grow" />
        <Button onClick={() => setAdding(true)}>New calendar</Button>
      </header>
      <ErrorNotice error={error} />
      {!data && !error && <Loading />}
      {data && calendars.length === 0 && (
        <div className="empty">
          <h2>No calendar yet</h2>
          <p>Without one, Monday to Friday are working days.</p>
        </div>
      )}
      {open && (
        <AsksBeforeLeaving chosenBy="calendar">
          <div className="beside-panel">
            <div className="list-with-panel">
              <CalendarTable calendars={calendars} open={open.id} onOpen={choose} />
            </div>
            <CalendarPanel key={open.id} calendar={open} />
          </div>
        </AsksBeforeLeaving>
      )}
      {isAdding && <NewCalendarDialog onAdded={choose} onClose={() => setAdding(false)} />}
    </>
  );
}

interface CalendarTableProps {
  readonly calendars: readonly WorkingCalendar[];
  readonly open: string;
  readonly onOpen: (id: string) => void;
}

function CalendarTable({ calendars, open, onOpen }: CalendarTableProps) {
  return (
    <PlainTable heads={['Calendar', 'Working days', 'Holidays#', 'Processes']}>
      {calendars.map(({ id, name, workingWeekdays, holidays, processes }) => (
        <tr key={id} className={id === open ? 'on' : ''}>
          <td>
            <Button variant="link" className="p-0" aria-pressed={id === open} onClick={() => onOpen(id)}>
              {name}
            </Button>
          </td>
          <td>{weekWords(workingWeekdays)}</td>
          <td className="num">{holidays.length}</td>
          <td>
            {processes.length === 0 && <span className="muted">none</span>}
            {processes.map((process) => process.name).join(', ')}
          </td>
        </tr>
      ))}
    </PlainTable>
  );
}

interface NewCalendarDialogProps {
  readonly onAdded: (id: string) => void;
  readonly onClose: () => void;
}

function NewCalendarDialog({ onAdded, onClose }: NewCalendarDialogProps) {
  const [add] = useAddCalendarMutation();
  const calendar = useBodyForm({
    begin: { name: '' },
    schema: ({ calendars }) => calendars.written,
    toBody: ({ name }) => ({ name: name.trim(), workingWeekdays: [1, 2, 3, 4, 5], holidays: [] }),
    send: add,
    onDone: ({ id }) => {
      onAdded(id);
      onClose();
    },
  });
  return (
    <FormDialog title="New calendar" confirm="Add the calendar" of={calendar} onClose={onClose}>
      <p className="muted small">It begins with Monday to Friday and no holidays.</p>
      <TextField form={calendar.form} name="name" id="new-calendar-name" label="Name" autoFocus max={200} />
    </FormDialog>
  );
}
