import '../deals/deal.css';
import '../deals/tasks.css';
import './today.css';
import { useMemo, useState } from 'react';
import { Button } from 'react-bootstrap';
import { useNavigate, useSearchParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { Choice } from '../../parts/Choice.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { KeysDialog } from '../../parts/KeysDialog.tsx';
import { Loading } from '../../parts/Loading.tsx';
import { ShowMore, type ShowMoreProps } from '../../parts/ShowMore.tsx';
import { AwayButton } from './AwayButton.tsx';
import { DayList, rowId } from './DayList.tsx';
import { DayPages } from './DayPages.tsx';
import { DayProgress } from './DayProgress.tsx';
import { DoneToday } from './DoneToday.tsx';
import { HandOverDialog } from './HandOverDialog.tsx';
import { askedOf, type DayArguments, type DayEntry, type Today, useGetTodayInfiniteQuery } from './todayApi.ts';
import { DAY_KEYS, useDayKeys } from './useDayKeys.ts';
import { type Undo, useUndo } from './useUndo.ts';
import { WhoseDay } from './WhoseDay.tsx';
import { WorkPane } from './WorkPane.tsx';

const ORDERS = [
  { id: 'consequence', name: 'consequence' },
  { id: 'due', name: 'due day' },
];

/** What the address says of whose day it is and in which order. */
function useAsked() {
  const [search, setSearch] = useSearchParams();
  const asked = askedOf(search);
  const choose = (change: DayArguments) =>
    setSearch(new URLSearchParams({ ...asked, ...change } as Record<string, string>));
  return {
    asked,
    choose,
    replace: (next: DayArguments) => setSearch(new URLSearchParams(next as Record<string, string>)),
  };
}

/** What was asked for ahead, while the page's code came, is not asked for again. */
const FRESH_S = 5;

/** One page that says what to do next, and why. */
export function TodayPage() {
  const { organisation } = useSession();
  const { asked, choose, replace } = useAsked();
  const list = useGetTodayInfiniteQuery(asked, { refetchOnMountOrArgChange: FRESH_S });
  const [first] = list.data?.pages ?? [];
  const entries = useMemo(() => uniqueEntries(list.data?.pages ?? []), [list.data]);
  const names = useMemo(() => namesIn(list.data?.pages ?? []), [list.data]);
  const left = first ? first.counts.held + first.counts.late + first.counts.today : 0;
  return (
    <>
      <header className="page-head today-head">
        <div>
          <div className="crumb">{dayWords(organisation.today)}</div>
          <h1>{titleOf(first)}</h1>
          {first && first.whose.alsoFor.length > 0 && (
            <small className="muted">with that of {first.whose.alsoFor.map(({ name }) => name).join(', ')}, away</small>
          )}
        </div>
        <DayPages />
        {first && <DayProgress done={first.done} left={left} />}
        <div className="grow" />
        {first?.whose.kind === 'person' && <AwayButton whose={first.whose} />}
        <WhoseDay
          asked={asked}
          onChoose={(whose) => replace({ ...whose, ...(asked.order ? { order: asked.order } : {}) })}
        />
        <Choice
          label="By"
          value={asked.order ?? 'consequence'}
          options={ORDERS}
          onChoose={(order) => choose({ order })}
        />
      </header>
      <ErrorNotice error={list.error} />
      {list.isLoading && <Loading />}
      {first && entries.length === 0 && <NothingToDo done={first.done} asked={asked} />}
      {first && entries.length > 0 && <Work {...{ day: first, entries, asked, names, list }} />}
    </>
  );
}

/** A deal that moved from one page to the next while both were read stands once. */
function uniqueEntries(pages: readonly Today[]): readonly DayEntry[] {
  const byDeal = new Map<string, DayEntry>();
  for (const entry of pages.flatMap(({ items }) => items))
    if (!byDeal.has(entry.deal.id)) byDeal.set(entry.deal.id, entry);
  return [...byDeal.values()];
}

const namesIn = (pages: readonly Today[]): ReadonlyMap<string, string> =>
  new Map(pages.flatMap(({ names }) => names.map(({ id, name }) => [id, name] as const)));

function titleOf(day: Today | undefined): string {
  return day?.whose.kind === 'team' ? `Today of ${day.whose.name}` : 'Today';
}

const dayWords = (day: string): string =>
  new Date(`${day}T00:00Z`).toLocaleDateString('en-GB', {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    timeZone: 'UTC',
  });

function NothingToDo({ done, asked }: { readonly done: number; readonly asked: DayArguments }) {
  return (
    <div className="empty">
      <h2>Nothing is waiting</h2>
      <p className="muted">
        No step, task or deal asks for anything until two weeks from now.
        {done > 0 && ' That is what was done for it:'}
      </p>
      {done > 0 && <DoneToday count={done} asked={asked} />}
    </div>
  );
}

interface WorkProps {
  readonly day: Today;
  readonly entries: readonly DayEntry[];
  readonly asked: DayArguments;
  readonly names: ReadonlyMap<string, string>;
  readonly list: ShowMoreProps['list'];
}

function Work({ day, entries, asked, names, list }: WorkProps) {
  const { person } = useSession();
  const navigate = useNavigate();
  const undo = useUndo();
  const [isHelp, setHelp] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const selection = useSelection(entries);
  const keys = useMemo(
    () => ({
      move: selection.move,
      first: selection.first,
      open: () => void navigate(`/deals/${selection.entry.deal.id}`),
      undo: () => void undo.undo(),
      help: () => setHelp(true),
    }),
    [selection, navigate, undo],
  );
  useDayKeys(keys);
  const choose = (deal: string, is: 'chosen' | 'not') => {
    const next = new Set(chosen);
    if (is === 'chosen') next.add(deal);
    else next.delete(deal);
    setChosen(next);
  };
  const mayHandOver = person.role === 'manager' || person.role === 'administrator';
  const isGrouped = asked.order !== 'due';
  return (
    <div className="day-work">
      <div className="day-left">
        <div className={`day-cols ${isGrouped ? '' : 'flat'}`} aria-hidden>
          <span>What to do, for which deal</span>
          <span>Stage</span>
          <span className="num">Value</span>
          <span>Why it is here</span>
        </div>
        <DayList
          entries={entries}
          counts={day.counts}
          grouped={isGrouped ? 'yes' : 'no'}
          selected={selection.entry.deal.id}
          onSelect={selection.select}
          choosing={mayHandOver ? { chosen, onChoose: choose } : null}
          names={names}
        />
        <ShowMore list={list} label="Show more of the day" />
        <footer className="day-foot">
          <DoneToday count={day.done} asked={asked} />
          <HandOver entries={entries.filter(({ deal }) => chosen.has(deal.id))} onDone={() => setChosen(new Set())} />
          <KeyHints onHelp={() => setHelp(true)} />
        </footer>
      </div>
      <WorkPane
        key={`${selection.entry.deal.id}`}
        entry={selection.entry}
        place={entries.indexOf(selection.entry)}
        currency={day.currency}
        undo={undo}
        onDone={selection.next}
      />
      <UndoBar undo={undo} />
      {isHelp && <KeysDialog keys={DAY_KEYS} onClose={() => setHelp(false)} />}
    </div>
  );
}

/** The deal at hand: the first, until another is chosen or what was done leads to the next. */
function useSelection(entries: readonly DayEntry[]) {
  const [selected, setSelected] = useState<string | null>(null);
  const place = Math.max(
    0,
    entries.findIndex(({ deal }) => deal.id === selected),
  );
  const entry = entries[place] as DayEntry;
  return useMemo(() => {
    const go = (to: DayEntry | undefined) => {
      if (!to) return;
      setSelected(to.deal.id);
      document.getElementById(rowId(to.deal.id))?.focus();
    };
    return {
      entry,
      select: setSelected,
      move: (by: -1 | 1) => go(entries[place + by]),
      first: () => go(entries[0]),
      next: () => go(entries[place + 1] ?? entries[place - 1]),
    };
  }, [entries, entry, place]);
}

function HandOver({ entries, onDone }: { readonly entries: readonly DayEntry[]; readonly onDone: () => void }) {
  const [isOpen, setOpen] = useState(false);
  if (entries.length === 0) return null;
  return (
    <>
      <Button size="sm" variant="outline-primary" onClick={() => setOpen(true)}>
        Hand over {entries.length}…
      </Button>
      {isOpen && <HandOverDialog entries={entries} onDone={onDone} onClose={() => setOpen(false)} />}
    </>
  );
}

const HINTS = [
  ['↑', '↓', 'previous, next'],
  ['↵', 'open deal'],
  ['1', '9', 'give result'],
  ['D', 'done'],
  ['L', 'later'],
  ['N', 'note'],
] as const;

function KeyHints({ onHelp }: { readonly onHelp: () => void }) {
  return (
    <>
      {HINTS.map((hint) => (
        <span key={hint.join()} aria-hidden>
          {hint.slice(0, -1).map((key) => (
            <kbd key={key}>{key}</kbd>
          ))}
          {hint.at(-1)}
        </span>
      ))}
      <Button variant="link" size="sm" className="p-0" onClick={onHelp}>
        <kbd aria-hidden>?</kbd>all keys
      </Button>
    </>
  );
}

function UndoBar({ undo }: { readonly undo: Undo }) {
  if (undo.error) return <ErrorNotice error={undo.error} />;
  if (undo.what === null) return null;
  return (
    <div className="day-undo" role="status">
      {undo.what}
      <Button variant="link" size="sm" onClick={() => undo.undo()}>
        Undo (U)
      </Button>
    </div>
  );
}
