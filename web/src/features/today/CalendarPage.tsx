import '../deals/tasks.css';
import './today.css';
import './calendar.css';
import { Button } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { CalendarGrid } from './CalendarGrid.tsx';
import { daysOf, turned, type View } from './calendarDays.ts';
import { DayPages } from './DayPages.tsx';
import { FeedButton } from './FeedButton.tsx';
import { useGetCalendarQuery } from './todayApi.ts';
import { WhoseDay } from './WhoseDay.tsx';

export const WeekPage = () => <CalendarPage view="week" />;
export const MonthPage = () => <CalendarPage view="month" />;

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** What is due on which day, to be moved to another. */
function CalendarPage({ view }: { readonly view: View }) {
  const { organisation } = useSession();
  const [search, setSearch] = useSearchParams();
  const asked = search.get('on') ?? '';
  const on = DAY.test(asked) && !Number.isNaN(Date.parse(asked)) ? asked : organisation.today;
  const days = daysOf(view, on);
  const whose = Object.fromEntries(
    ['person', 'team'].flatMap((name) => (search.get(name) ? [[name, search.get(name)]] : [])),
  );
  const { currentData: calendar, error } = useGetCalendarQuery({
    ...whose,
    from: days[0] ?? on,
    to: days.at(-1) ?? on,
  });
  const go = (day: string) => setSearch({ ...whose, ...(day === organisation.today ? {} : { on: day }) });
  return (
    <>
      <header className="page-head today-head">
        <div>
          <div className="crumb">{calendar?.items.length === 0 ? 'Nothing is due' : 'What is due'}</div>
          <h1>{titleOf(view, days, on)}</h1>
        </div>
        <DayPages />
        <div className="turn">
          <Button
            variant="outline-secondary"
            aria-label={`The ${view} before`}
            onClick={() => go(turned(view, on, -1))}
          >
            ‹
          </Button>
          <Button variant="outline-secondary" onClick={() => go(organisation.today)}>
            Today
          </Button>
          <Button variant="outline-secondary" aria-label={`The next ${view}`} onClick={() => go(turned(view, on, 1))}>
            ›
          </Button>
        </div>
        <div className="grow" />
        <WhoseDay
          asked={whose}
          onChoose={(next) =>
            setSearch({ ...(next as Record<string, string>), ...(on === organisation.today ? {} : { on }) })
          }
        />
        <FeedButton />
      </header>
      <ErrorNotice error={error} />
      {!calendar && !error && <Loading />}
      {calendar && <CalendarGrid view={view} days={days} month={on.slice(0, 7)} calendar={calendar} />}
    </>
  );
}

const monthName = (day: string): string =>
  new Date(`${day.slice(0, 7)}-01T00:00Z`).toLocaleDateString('en-GB', {
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  });

const dayName = (day: string, year: 'numeric' | undefined): string =>
  new Date(`${day}T00:00Z`).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year, timeZone: 'UTC' });

function titleOf(view: View, days: readonly string[], on: string): string {
  if (view === 'month') return monthName(on);
  const [first, last] = [days[0] ?? on, days.at(-1) ?? on];
  const begin = first.slice(0, 7) === last.slice(0, 7) ? String(Number(first.slice(8))) : dayName(first, undefined);
  return `${begin} to ${dayName(last, 'numeric')}`;
}
