import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { Options } from '../../parts/Options.tsx';
import { CalendarChangeDialog } from '../calendars/CalendarChangeDialog.tsx';
import { useChooseCalendarMutation, useGetCalendarsQuery } from '../calendars/calendarsApi.ts';
import type { ProcessDetail } from './processesApi.ts';

interface CalendarSectionProps {
  readonly process: ProcessDetail;
  readonly mayChange: boolean;
}

/** By which calendar working days are counted; another one is chosen at once, and what that moves is shown before. */
export function CalendarSection({ process, mayChange }: CalendarSectionProps) {
  const { data } = useGetCalendarsQuery(undefined, { skip: !mayChange });
  const [chosen, setChosen] = useState<string | null>(null);
  const [choose] = useChooseCalendarMutation();
  const calendars = data?.items ?? [process.calendar];
  const other = calendars.find(({ id }) => id === chosen);
  return (
    <section>
      <header>
        <h3>
          Calendar <small>for all versions, at once</small>
        </h3>
      </header>
      <Form.Select
        size="sm"
        aria-label="Calendar"
        disabled={!mayChange}
        value={process.calendar.id}
        onChange={(event) => setChosen(event.target.value)}
      >
        <Options of={calendars} />
      </Form.Select>
      {other && (
        <CalendarChangeDialog
          title={`Go by ${other.name}`}
          confirm="Choose the calendar"
          asked={{ what: 'process', process: process.id, calendar: other.id }}
          change={() => choose({ process: process.id, body: { calendar: other.id, saw: process.calendar.id } })}
          onDone={() => setChosen(null)}
          onClose={() => setChosen(null)}
        />
      )}
    </section>
  );
}
