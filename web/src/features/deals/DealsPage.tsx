import './deals.css';
import { useEffect, useRef, useState } from 'react';
import { Button, ButtonGroup, Dropdown, Form } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { DayChoice } from '../../parts/DayChoice.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, shortMoney } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { type ProcessSummary, useListProcessesQuery } from '../processes/processesApi.ts';
import { DealTable } from './DealTable.tsx';
import { filtersOf, type Lanes, lanesAskedFor, useGetFirstLanesQuery, useGetLanesQuery, viewIn } from './dealsApi.ts';
import { Filters } from './Filters.tsx';
import { LanesView } from './LanesView.tsx';
import { lastProcess, rememberProcess } from './lastProcess.ts';
import { NewDealDialog } from './NewDealDialog.tsx';

/** Open deals of one process, as lanes on its ladder or as a table. Everything chosen stands in the address. */
export function DealsPage() {
  const { data: processes, error } = useListProcessesQuery();
  const [search, setSearch] = useSearchParams();
  const chosen = [search.get('process'), lastProcess()].filter((id) => id !== null);
  const first = useGetFirstLanesQuery(filtersOf(search), { skip: chosen.length > 0 });
  const live = processes?.items.filter((process) => process.live) ?? [];
  const process = chosenOf(live, [...chosen, first.data?.process.id ?? null]);
  const shown = process?.id;
  useEffect(() => {
    if (shown) rememberProcess(shown);
  }, [shown]);
  if (!processes || first.isLoading) return error ? <ErrorNotice error={error} /> : <Loading />;
  if (!process) return <NoProcess />;
  const choose = (name: string, value: string | null) =>
    setSearch((current) => {
      const next = new URLSearchParams(current);
      if (value === null || value === '') next.delete(name);
      else next.set(name, value);
      return next;
    });
  return <DealsOfProcess key={process.id} process={process} processes={live} search={search} choose={choose} />;
}

/** The first of these ids that there is; else the process of most open deals. */
const chosenOf = (live: readonly ProcessSummary[], ids: readonly (string | null)[]): ProcessSummary | undefined =>
  live.find(({ id }) => id === ids.find((one) => live.some((process) => process.id === one))) ??
  live.toSorted((a, b) => b.openDeals - a.openDeals)[0];

function NoProcess() {
  const { person } = useSession();
  return (
    <div className="empty">
      <h2>No process is live yet</h2>
      <p>
        {person.role === 'administrator'
          ? 'Design one under Processes and publish it; its deals then stand here.'
          : 'Ask your sales operations administrator to publish one.'}
      </p>
    </div>
  );
}

export type Choose = (name: string, value: string | null) => void;

interface DealsProps {
  readonly process: ProcessSummary;
  readonly processes: readonly ProcessSummary[];
  readonly search: URLSearchParams;
  readonly choose: Choose;
}

function DealsOfProcess(props: DealsProps) {
  const { process, search, choose } = props;
  const { organisation } = useSession();
  const asked = lanesAskedFor(process.id, search);
  const { filters } = asked;
  const find = search.get('find') ?? '';
  const view = viewIn(search);
  const { data, currentData, error, isLoading } = useGetLanesQuery(asked);
  // Not those of another day under what was wrong with this one.
  const lanes = error ? currentData : data;
  return (
    <>
      <DealsHead {...props} find={find} view={view} on={asked.on ?? null} />
      <div className="deals-bar">
        {lanes && <Figures lanes={lanes} />}
        <Filters filters={filters} choose={choose} day={lanes?.on ?? organisation.today} />
      </div>
      {isLoading && <Loading />}
      <ErrorNotice error={error} />
      {lanes && view === 'lanes' && <LanesView lanes={lanes} known={asked.known ?? null} choose={choose} />}
      {lanes && view === 'table' && (
        <DealTable
          lanes={lanes}
          filters={filters}
          find={find}
          status={search.get('status') ?? 'open'}
          choose={choose}
        />
      )}
    </>
  );
}

interface DealsHeadProps extends DealsProps {
  readonly find: string;
  readonly view: 'lanes' | 'table';
  /** The past day that lanes are told of. */
  readonly on: string | null;
}

function DealsHead({ process, processes, choose, find, view, on }: DealsHeadProps) {
  const { person, organisation } = useSession();
  const [isAdding, setAdding] = useState(false);
  const mayAdd = person.role !== 'viewer' && !process.closedToNew;
  return (
    <header className="page-head">
      <div>
        <div className="crumb">Deals in the process</div>
        <ProcessPicker process={process} processes={processes} onChoose={(id) => choose('process', id)} />
      </div>
      <div className="grow" />
      {view === 'lanes' && (
        <DayChoice
          label="As of"
          last={organisation.today}
          value={on ?? organisation.today}
          onChoose={(day) => choose('on', day)}
        />
      )}
      <FindBox text={find} onFind={(text) => choose('find', text)} />
      <ViewChoice find={find} view={view} choose={choose} />
      {mayAdd && <Button onClick={() => setAdding(true)}>New deal</Button>}
      {isAdding && <NewDealDialog process={process.id} onClose={() => setAdding(false)} />}
    </header>
  );
}

/** What is looked for is shown as a table. */
function ViewChoice({ find, view, choose }: Pick<DealsHeadProps, 'find' | 'view' | 'choose'>) {
  const button = (one: DealsHeadProps['view']) => ({
    variant: 'outline-secondary',
    active: view === one,
    'aria-pressed': view === one,
    onClick: () => choose('view', one === 'lanes' ? null : one),
  });
  return (
    <ButtonGroup aria-label="View">
      <Button {...button('lanes')} disabled={find !== ''}>
        Lanes
      </Button>
      <Button {...button('table')}>Table</Button>
    </ButtonGroup>
  );
}

function ProcessPicker({
  process,
  processes,
  onChoose,
}: {
  process: ProcessSummary;
  processes: readonly ProcessSummary[];
  onChoose: (id: string) => void;
}) {
  return (
    <Dropdown>
      <h1>
        <Dropdown.Toggle variant="link" className="process-picker" aria-label={`Process: ${process.name}`}>
          {process.name}
        </Dropdown.Toggle>
      </h1>
      <Dropdown.Menu>
        {processes.map(({ id, name, openDeals }) => (
          <Dropdown.Item key={id} active={id === process.id} onClick={() => onChoose(id)}>
            {name} · {countOf(openDeals, 'open deal')}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}

/** Finding a deal; `/` goes there from anywhere on the page. */
function FindBox({ text, onFind }: { text: string; onFind: (text: string) => void }) {
  const box = useRef<HTMLInputElement>(null);
  const [draft, setDraft] = useState(text);
  useEffect(() => {
    const focus = (event: KeyboardEvent) => {
      const isTyping =
        event.target instanceof HTMLElement &&
        event.target.closest('input:not([type="checkbox"]), textarea, select, [contenteditable]');
      if (event.key !== '/' || isTyping) return;
      event.preventDefault();
      box.current?.focus();
    };
    window.addEventListener('keydown', focus);
    return () => window.removeEventListener('keydown', focus);
  }, []);
  useEffect(() => {
    const timer = setTimeout(() => draft !== text && onFind(draft), 250);
    return () => clearTimeout(timer);
  }, [draft, text, onFind]);
  return (
    <div className="find">
      <Form.Control
        ref={box}
        type="search"
        placeholder="Find a deal or customer"
        aria-label="Find a deal or customer"
        value={draft}
        onChange={(event) => setDraft(event.target.value)}
      />
      {draft === '' && <kbd aria-hidden>/</kbd>}
    </div>
  );
}

function Figures({ lanes }: { lanes: Lanes }) {
  const { openDeals, allOpenDeals, minor, weightedMinor, held, pastTarget, withoutRate, currency } = lanes;
  return (
    <dl className="figures">
      <Figure
        value={openDeals.toLocaleString('en-GB')}
        name={openDeals === allOpenDeals ? 'open deals' : `open deals of ${allOpenDeals.toLocaleString('en-GB')}`}
      />
      <Figure
        value={shortMoney(minor, currency)}
        name={withoutRate > 0 ? `value, ${withoutRate} without a rate` : 'value'}
      />
      <Figure value={shortMoney(weightedMinor, currency)} name="weighted" />
      <Figure value={held.toLocaleString('en-GB')} name="held" {...(held > 0 ? { tone: 'text-held' } : {})} />
      <Figure value={pastTarget.toLocaleString('en-GB')} name="past target" />
    </dl>
  );
}

function Figure({ value, name, tone = '' }: { value: string; name: string; tone?: string }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd className={`figure-head ${tone}`}>{value}</dd>
    </div>
  );
}
