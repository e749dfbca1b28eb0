import { calendarDaysOf, isMoney, itemTitle, stageOf } from '@ladder/core';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { shortDay, shortValue } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { Compose } from '../deals/Compose.tsx';
import { type DealDetail, useGetDealQuery } from '../deals/dealsApi.ts';
import { NextActionPart } from '../deals/NextActionPart.tsx';
import { whyHere, whyOf } from './dayWords.ts';
import { LastEntries } from './LastEntries.tsx';
import { MainWork, openTask } from './MainWork.tsx';
import { StillNeeded } from './StillNeeded.tsx';
import type { DayEntry, DayItem } from './todayApi.ts';
import type { Undo } from './useUndo.ts';

interface WorkPaneProps {
  readonly entry: DayEntry;
  readonly place: number;
  readonly currency: string;
  readonly undo: Undo;
  /** Goes on to what comes next. */
  readonly onDone: () => void;
}

/** The deal at hand, worked where it is: what there is to do about it, what its gate still asks, and what happened last. */
export function WorkPane(props: WorkPaneProps) {
  const { currentData: deal, error } = useGetDealQuery(props.entry.deal.id);
  return (
    <aside className="day-pane" aria-label="At hand" aria-busy={deal ? isDone(props.entry.item, deal) : !error}>
      {deal ? <Opened key={deal.id} {...props} deal={deal} /> : error ? <ErrorNotice error={error} /> : <Loading />}
    </aside>
  );
}

/** Whether the deal is already beyond what the day said: the day is asked for anew, and says what is next. */
function isDone(item: DayItem, deal: DealDetail): boolean {
  switch (item.kind) {
    case 'step':
      return !deal.stepsAtHand.some(({ seq }) => seq === item.run);
    case 'task':
      return openTask(deal, item.task) === undefined;
    default:
      return false;
  }
}

function Opened({ entry, deal, place, currency, undo, onDone }: WorkPaneProps & { readonly deal: DealDetail }) {
  const { organisation } = useSession();
  const { value, close_date: closeDate } = deal.values;
  const facts = [
    shortValue(isMoney(value) ? value : null),
    ...(deal.status.state === 'open' ? [`${stageOf(deal.document, deal.stage)?.chance ?? 0}%`] : []),
    ...(typeof closeDate === 'string' ? [`close date ${shortDay(closeDate, organisation.today)}`] : []),
  ];
  return (
    <>
      <div className="crumb">{whereWords(deal)}</div>
      <h2>{deal.name}</h2>
      <div className="small muted">{facts.join(' · ')}</div>
      <p className="day-first">{whyHere(entry, place, currency)}</p>
      <MainWork entry={entry} deal={deal} undo={undo} onDone={onDone} />
      <Others entry={entry} />
      <StillNeeded deal={deal} isHeld={entry.item.kind === 'held'} />
      {entry.item.kind !== 'next_action' && deal.status.state === 'open' && (
        <section>
          <NextActionPart deal={deal} />
        </section>
      )}
      <section>
        <h3>Last in the journal</h3>
        {deal.may.change && <Compose deal={deal} />}
        <LastEntries deal={deal.id} />
      </section>
      <div className="day-acts">
        <Link className="btn btn-outline-secondary" to={`/deals/${deal.id}`}>
          Open deal <kbd aria-hidden>↵</kbd>
        </Link>
      </div>
    </>
  );
}

function whereWords(deal: DealDetail): string {
  const stage = stageOf(deal.document, deal.stage)?.name ?? 'A stage that is gone';
  if (deal.status.state !== 'open') return `Closed in ${stage}`;
  const target = stageOf(deal.document, deal.stage)?.target;
  return `${stage}, day ${deal.age}${target ? ` of ${calendarDaysOf(target, deal.calendar)}` : ''}`;
}

/** What else there is to do about the deal. */
function Others({ entry }: { entry: DayEntry }) {
  const { organisation } = useSession();
  if (entry.others.length === 0) return null;
  return (
    <section>
      <h3>Also</h3>
      <ul className="day-others">
        {entry.others.map((item) => (
          <li key={JSON.stringify(item)}>
            <b>{itemTitle(item)}</b>, {lower(whyOf(item, organisation.today).says)}
          </li>
        ))}
      </ul>
    </section>
  );
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
