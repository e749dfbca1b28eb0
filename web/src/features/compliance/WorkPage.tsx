import { skipToken } from '@reduxjs/toolkit/query/react';
import '../deals/deals.css';
import './compliance.css';
import type { ReactNode } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { queryString } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { downloadCsv } from '../../parts/downloadCsv.ts';
import { shortDay } from '../../parts/format.ts';
import { headName, PlainTable } from '../../parts/PlainTable.tsx';
import { MeasurePage } from '../processes/MeasurePage.tsx';
import { type MeasureChoice, useMeasureChoice, usePeriod } from '../processes/ProcessBar.tsx';
import { CompliancePages } from './CompliancePages.tsx';
import {
  type PastDue,
  type StepsDone,
  type StepWork,
  useGetStepWorkQuery,
  useLazyReadPastDueQuery,
  useLazyReadStepsDoneQuery,
  useListPastDueInfiniteQuery,
  useListStepsDoneInfiniteQuery,
} from './complianceApi.ts';
import { RunsList } from './RunsList.tsx';
import { WorkList } from './WorkList.tsx';

const PERIODS = [
  { id: '7', name: 'Last 7 days' },
  { id: '30', name: 'Last 30 days' },
  { id: '91', name: 'Last 13 weeks' },
  { id: '365', name: 'Last 12 months' },
];

/** How the work is done: which steps were ended by whom and how, where open deals stand by step, and what is late. */
export function WorkPage() {
  const choice = useMeasureChoice();
  const { process, filters } = choice;
  const { organisation } = useSession();
  const { from, shown } = usePeriod(choice, PERIODS, '30', organisation.today);
  const { data, error, isLoading } = useGetStepWorkQuery(process ? { process: process.id, from, filters } : skipToken);
  return (
    <MeasurePage
      title="Compliance"
      about="Which steps are done, and which are late"
      choice={choice}
      asked={{ isLoading, error }}
      pages={<CompliancePages />}
    >
      {data && (
        <div className="page-body work-page">
          <Standing work={data} choice={choice} />
          <Late choice={choice} />
          <Done work={data} choice={choice} period={shown} />
          <RunsList work={data} choice={choice} />
        </div>
      )}
    </MeasurePage>
  );
}

interface PartProps {
  readonly work: StepWork;
  readonly choice: MeasureChoice;
}

/** Which runs the list below shows; all of it stands in the address. */
type Shown = Readonly<Record<'state' | 'step' | 'result' | 'person' | 'late', string | null>>;
const NOTHING: Shown = { state: null, step: null, result: null, person: null, late: null };

interface NumberProps {
  readonly count: number;
  readonly label: string;
  readonly choice: MeasureChoice;
  readonly shown: Partial<Shown> & { readonly process?: string; readonly team?: string };
  readonly isLate?: boolean;
}

/** A number that opens what it counts. */
function Count({ count, label, choice, shown, isLate = false }: NumberProps) {
  if (count === 0) return <span className="muted">0</span>;
  return (
    <Button
      variant="link"
      className={`p-0 ${isLate ? 'text-held' : ''}`}
      aria-label={label}
      onClick={() => {
        choice.choose({ ...NOTHING, ...shown });
        document.getElementById('runs')?.scrollIntoView({ block: 'start' });
      }}
    >
      {count}
    </Button>
  );
}

const STANDING_HEADS = ['Stage', 'Step', 'Deals#', 'Late#'];

function Standing({ work, choice }: PartProps) {
  const rows = work.standing.map(({ stage, name, deals, late }) => [stage.name, name, deals, late]);
  return (
    <section aria-label="Where open deals stand">
      <header>
        <h2>Where open deals stand</h2>
        <span className="muted small">steps at hand now</span>
        {rows.length > 0 && (
          <Button
            variant="link"
            aria-label="Where open deals stand as CSV"
            onClick={() => downloadCsv('steps-at-hand.csv', [STANDING_HEADS.map(headName), ...rows])}
          >
            As CSV
          </Button>
        )}
      </header>
      {rows.length === 0 && <p className="muted">Nothing here.</p>}
      {rows.length > 0 && (
        <PlainTable heads={STANDING_HEADS}>
          {work.standing.map(({ stage, step, name, deals, late }) => (
            <tr key={`${stage.id} ${step}`}>
              <td>{stage.name}</td>
              <td>{name}</td>
              <td className="num">
                <Count count={deals} label={`${deals} at ${name}`} choice={choice} shown={{ state: 'open', step }} />
              </td>
              <td className="num">
                <Count
                  isLate
                  count={late}
                  label={`${late} late at ${name}`}
                  choice={choice}
                  shown={{ state: 'open', step, late: 'yes' }}
                />
              </td>
            </tr>
          ))}
        </PlainTable>
      )}
    </section>
  );
}

const PAST_DUE_HEADS = ['Process', 'Team', 'Person', 'Late steps#', 'Deals with them#', 'Deals past target#'];

function Late({ choice }: Pick<PartProps, 'choice'>) {
  const list = useListPastDueInfiniteQuery(choice.filters);
  const [read, reading] = useLazyReadPastDueQuery();
  return (
    <WorkList
      title="Past due"
      note={() => 'in all processes that you see'}
      list={list}
      file={{
        name: 'past-due',
        heads: PAST_DUE_HEADS,
        cellsOf: ({ process, team, person, lateSteps, lateDeals, pastTarget }) => [
          process.name,
          team?.name ?? null,
          person?.name ?? 'nobody’s',
          lateSteps,
          lateDeals,
          pastTarget,
        ],
        read: () => read(choice.filters),
        state: reading,
      }}
    >
      {(rows) => (
        <PlainTable heads={PAST_DUE_HEADS}>
          {rows.map((row) => (
            <LateRow key={`${row.process.id} ${row.team?.id} ${row.person?.id}`} row={row} choice={choice} />
          ))}
        </PlainTable>
      )}
    </WorkList>
  );
}

function LateRow({ row, choice }: { readonly row: PastDue; readonly choice: MeasureChoice }) {
  const { process, team, person, lateSteps, lateDeals, pastTarget } = row;
  const who = person?.name ?? 'nobody';
  const [inTeam, of] = [team?.id ?? 'none', person?.id ?? 'none'];
  const shown = { process: process.id, team: inTeam, state: 'open', person: of, late: 'yes' };
  const deals = { process: process.id, team: inTeam, owner: of, pastTarget: 'yes', view: 'table' };
  return (
    <tr>
      <td>{process.name}</td>
      <td>{team?.name ?? <span className="muted">none</span>}</td>
      <td>{person?.name ?? <span className="muted">nobody’s yet</span>}</td>
      <td className="num">
        <Count isLate count={lateSteps} label={`${lateSteps} late steps of ${who}`} choice={choice} shown={shown} />
      </td>
      <td className="num">
        <Count count={lateDeals} label={`${lateDeals} deals with late steps of ${who}`} choice={choice} shown={shown} />
      </td>
      <td className="num">
        {pastTarget === 0 ? (
          <span className="muted">0</span>
        ) : (
          <Link
            className="btn btn-link p-0"
            to={`/deals${queryString(deals)}`}
            aria-label={`${pastTarget} deals of ${who} past target`}
          >
            {pastTarget}
          </Link>
        )}
      </td>
    </tr>
  );
}

const DONE_HEADS = ['Stage', 'Step', 'Person', 'Result', 'Times#', 'Late#'];

function Done({ work, choice, period }: PartProps & { readonly period: ReactNode }) {
  const { organisation } = useSession();
  const asked = { process: work.process.id, filters: choice.filters, from: work.from };
  const list = useListStepsDoneInfiniteQuery(asked);
  const [read, reading] = useLazyReadStepsDoneQuery();
  const day = (text: string) => shortDay(text, organisation.today);
  return (
    <WorkList
      title="Done"
      note={() => `${day(work.from)} to ${day(work.to)}, by who did it`}
      narrowed={period}
      list={list}
      file={{
        name: 'steps-done',
        heads: DONE_HEADS,
        cellsOf: ({ stage, name, person, resultName, count, late }) => [
          stage.name,
          name,
          person.name,
          resultName,
          count,
          late,
        ],
        read: () => read(asked),
        state: reading,
      }}
    >
      {(rows) => (
        <PlainTable heads={DONE_HEADS}>
          {rows.map((row) => (
            <DoneRow key={`${row.stage.id} ${row.step} ${row.person.id} ${row.result}`} row={row} choice={choice} />
          ))}
        </PlainTable>
      )}
    </WorkList>
  );
}

function DoneRow({ row, choice }: { readonly row: StepsDone; readonly choice: MeasureChoice }) {
  const { stage, step, name, person, result, resultName, count, late } = row;
  const shown = { state: 'done', step, result, person: person.id ?? 'none' };
  const label = `${name}, ${resultName}, ${person.name}`;
  return (
    <tr>
      <td>{stage.name}</td>
      <td>{name}</td>
      <td>{person.name}</td>
      <td>{resultName}</td>
      <td className="num">
        <Count count={count} label={`${count}: ${label}`} choice={choice} shown={shown} />
      </td>
      <td className="num">
        <Count isLate count={late} label={`${late} late: ${label}`} choice={choice} shown={{ ...shown, late: 'yes' }} />
      </td>
    </tr>
  );
}
