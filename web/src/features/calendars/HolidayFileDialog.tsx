import type { Holiday } from '@ladder/core';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useSession } from '../../client/session.ts';
import { DialogEnd } from '../../parts/form/DialogEnd.tsx';
import { countOf } from '../../parts/format.ts';
import { HolidayList } from './HolidayList.tsx';

interface HolidayFileDialogProps {
  /** Days that are holidays already. */
  readonly known: readonly Holiday[];
  readonly onTake: (holidays: readonly Holiday[]) => void;
  readonly onClose: () => void;
}

const YEARS_AHEAD = 5;
const MOST_BYTES = 8_000_000;

/** Takes holidays from an iCalendar file: what it holds is shown before any is taken. */
export function HolidayFileDialog({ known, onTake, onClose }: HolidayFileDialogProps) {
  const { organisation } = useSession();
  const thisYear = Number(organisation.today.slice(0, 4));
  const [text, setText] = useState<string | null>(null);
  const [lastYear, setLastYear] = useState(String(thisYear + YEARS_AHEAD));
  const [found, setFound] = useState<readonly Holiday[]>([]);
  const [problems, setProblems] = useState<readonly string[]>([]);
  const read = async (content: string | null, year: string) => {
    setText(content);
    setLastYear(year);
    setFound([]);
    setProblems([]);
    if (content === null) return;
    const { readHolidays, describeHolidayProblem } = await import('@ladder/core/formats/readHolidays.ts');
    const asked = /^\d{4}$/.test(year.trim()) ? Number(year) : null;
    const holidays = readHolidays(content, asked);
    if (holidays.ok) setFound(holidays.value);
    else setProblems(holidays.error.map(describeHolidayProblem));
  };
  const choose = async (file: File | undefined) => {
    if (!file) return read(null, lastYear);
    if (file.size > MOST_BYTES) {
      await read(null, lastYear);
      return setProblems(['The file is larger than 8 MB, which is no calendar of holidays.']);
    }
    await read(await file.text(), lastYear);
  };
  const days = new Set(known.map(({ day }) => day));
  const ahead = found.filter(({ day }) => day >= organisation.today && !days.has(day));
  return (
    <Modal show onHide={onClose} centered scrollable aria-labelledby="holiday-file">
      <Modal.Header closeButton>
        <h2 id="holiday-file">Holidays from a file</h2>
      </Modal.Header>
      <Modal.Body>
        <Form.Group controlId="holiday-file-chosen" className="mb-2">
          <Form.Label>iCalendar file (.ics)</Form.Label>
          <Form.Control
            type="file"
            accept="text/calendar,.ics"
            isInvalid={problems.length > 0}
            onChange={(event) => void choose((event.target as HTMLInputElement).files?.[0])}
          />
        </Form.Group>
        <Form.Group controlId="holiday-last-year" className="mb-2">
          <Form.Label>What recurs without end is taken up to the year</Form.Label>
          <Form.Control
            className="year-box"
            inputMode="numeric"
            maxLength={4}
            value={lastYear}
            onChange={(event) => void read(text, event.target.value)}
          />
        </Form.Group>
        {problems.length > 0 && (
          <div className="notice bad" role="alert">
            <b>Nothing was taken.</b>
            <ul className="mb-0">
              {problems.slice(0, MOST_TOLD).map((problem) => (
                <li key={problem}>{problem}</li>
              ))}
              {problems.length > MOST_TOLD && <li>And {problems.length - MOST_TOLD} more.</li>}
            </ul>
          </div>
        )}
        {text !== null && problems.length === 0 && (
          <p className="small" role="status">
            {countOf(found.length, 'day')} in the file, {ahead.length.toLocaleString('en-GB')} of them ahead and new.
          </p>
        )}
        <HolidayList holidays={ahead} />
      </Modal.Body>
      <DialogEnd onCancel={onClose}>
        <Button
          disabled={ahead.length === 0}
          onClick={() => {
            onTake(ahead);
            onClose();
          }}
        >
          Take {countOf(ahead.length, 'day')}
        </Button>
      </DialogEnd>
    </Modal>
  );
}

const MOST_TOLD = 10;
