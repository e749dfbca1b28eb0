import type { Holiday } from '@ladder/core';
import { Button } from 'react-bootstrap';
import { shortDay } from '../../parts/format.ts';
import { weekdayOf } from './calendarWords.ts';

interface HolidayListProps {
  /** In order. */
  readonly holidays: readonly Holiday[];
  readonly onRemove?: (day: string) => void;
}

/** Holidays, year by year. */
export function HolidayList({ holidays, onRemove }: HolidayListProps) {
  const years = [...new Set(holidays.map(({ day }) => day.slice(0, 4)))];
  return years.map((year) => (
    <div key={year}>
      <h4 className="holiday-year">{year}</h4>
      <ul className="holiday-list">
        {holidays
          .filter(({ day }) => day.startsWith(year))
          .map(({ day, name }) => (
            <li key={day}>
              <span className="muted">{weekdayOf(day)}</span>
              <span className="num">{shortDay(day, day)}</span>
              <span>{name || <span className="muted">no name</span>}</span>
              {onRemove && (
                <Button
                  variant="link"
                  size="sm"
                  aria-label={`Leave out ${shortDay(day, '')} ${name}`}
                  onClick={() => onRemove(day)}
                >
                  ✕
                </Button>
              )}
            </li>
          ))}
      </ul>
    </div>
  ));
}
