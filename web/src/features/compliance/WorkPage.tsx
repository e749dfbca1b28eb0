import { skipToken } from '@reduxjs/toolkit/query/react';
import '../deals/deals.css';
import './compliance.css';
import { type ReactNode, useState } from 'react';
import { Button } from 'react-bootstrap';
import { queryString } from '../../client/api.ts';
import { useSession } from '../../client/session.ts';
import { downloadCsv } from '../../parts/downloadCsv.ts';
import { shortDay } from '../../parts/format.ts';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { MeasurePage } from '../processes/MeasurePage.tsx';
import { type MeasureChoice, useMeasureChoice, usePeriod } from '../processes/ProcessBar.tsx';
import { CompliancePages } from './CompliancePages.tsx';
import { type StepWork, useGetStepWorkQuery } from './complianceApi.ts';
import { RunsList } from './RunsList.tsx';

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
  const { from, shown } = usePeriod(choice, PERIODS, '30');
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
          <Late work={data} choice={choice} />
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

type Cells = readonly (readonly (string | number | null)[])[];

interface SectionProps {
  readonly title: string;
  readonly note: string;
  readonly file: string;
  readonly rows: Cells;
  /** How it is narrowed, where it is. */
  readonly narrowed?: ReactNode;
  readonly children: ReactNode;
}

/** A table with its name, and the same as a file. */
function Section({ title, note, file, rows, narrowed, children }: SectionProps) {
  return (
    <section>
      <header>
        <h2>{title}</h2>
        <span className="muted small">{note}</span>
        {narrowed}
        {rows.length > 1 && (
          <Button variant="link" aria-label={`${title} as CSV`} onClick={() => downloadCsv(`${file}.csv`, rows)}>
            As CSV
          </Button>
        )}
      </header>
      {rows.length > 1 ? children : <p className="muted">Nothing here.</p>}
    </section>
  );
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

function Standing({ work, choice }: PartProps) {
  const rows = work.standing.map(({ stage, name, deals, late }) => [stage.name, name, deals, late]);
  return (
    <Section
      title="Where open deals stand"
      note="steps at hand now"
      file="steps-at-hand"
      rows={[['Stage', 'Step', 'Deals', 'Late'], ...rows]}
    >
      <PlainTable heads={['Stage', 'Step', 'Deals#', 'Late#']}>
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
    </Section>
  );
}

function Late({ work, choice }: PartProps) {
  const rows = work.late.map(({ process, team, person, lateSteps, lateDeals, pastTarget }) => [
    process.name,
    team?.name ?? null,
    person?.name ?? 'nobody’s',
    lateSteps,
    lateDeals,
    pastTarget,
  ]);
  const heads = ['Process', 'Team', 'Person', 'Late steps', 'Deals with them', 'Deals past target'];
  return (
    <Section title="Past due" note="in all processes that you see" file="past-due" rows={[heads, ...rows]}>
      <PlainTable heads={['Process', 'Team', 'Person', 'Late steps#', 'Deals with them#', 'Deals past target#']}>
        {work.late.map(({ process, team, person, lateSteps, lateDeals, pastTarget }) => {
          const who = person?.name ?? 'nobody';
          const shown = {
            process: process.id,
            team: team?.id ?? 'none',
            state: 'open',
            person: person?.id ?? 'none',
            late: 'yes',
          };
          return (
            <tr key={`${process.id} ${team?.id} ${person?.id}`}>
              <td>{process.name}</td>
              <td>{team?.name ?? <span className="muted">none</span>}</td>
              <td>{person?.name ?? <span className="muted">nobody’s yet</span>}</td>
              <td className="num">
                <Count
                  isLate
                  count={lateSteps}
                  label={`${lateSteps} late steps of ${who}`}
                  choice={choice}
                  shown={shown}
                />
              </td>
              <td className="num">
                <Count
                  count={lateDeals}
                  label={`${lateDeals} deals with late steps of ${who}`}
                  choice={choice}
                  shown={shown}
                />
              </td>
              <td className="num">
                {pastTarget === 0 ? (
                  <span className="muted">0</span>
                ) : (
                  <a
                    href={`/deals${queryString({ process: process.id, team: team?.id ?? 'none', owner: person?.id ?? 'none', pastTarget: 'yes', view: 'table' })}`}
                    aria-label={`${pastTarget} deals of ${who} past target`}
                  >
                    {pastTarget}
                  </a>
                )}
              </td>
            </tr>
          );
        })}
      </PlainTable>
    </Section>
  );
}

/** So many rows are shown at first; the file has all. */
const FEW_ROWS = 20;

function Done({ work, choice, period }: PartProps & { readonly period: ReactNode }) {
  const { organisation } = useSession();
  const [isWhole, setWhole] = useState(false);
  const shownRows = isWhole ? work.done : work.done.slice(0, FEW_ROWS);
  const day = (text: string) => shortDay(text, organisation.today);
  const rows = work.done.map(({ stage, name, person, resultName, count, late }) => [
    stage.name,
    name,
    person.name,
    resultName,
    count,
    late,
  ]);
  return (
    <Section
      title="Done"
      note={`${day(work.from)} to ${day(work.to)}, by who did it`}
      narrowed={period}
      file="steps-done"
      rows={[['Stage', 'Step', 'Person', 'Result', 'Times', 'Late'], ...rows]}
    >
      <PlainTable heads={['Stage', 'Step', 'Person', 'Result', 'Times#', 'Late#']}>
        {shownRows.map(({ stage, step, name, person, result, resultName, count, late }) => {
          const shown = { state: 'done', step, result, person: person.id ?? 'none' };
          const label = `${name}, ${resultName}, ${person.name}`;
          return (
            <tr key={`${step} ${person.id} ${result}`}>
              <td>{stage.name}</td>
              <td>{name}</td>
              <td>{person.name}</td>
              <td>{resultName}</td>
              <td className="num">
                <Count count={count} label={`${count}: ${label}`} choice={choice} shown={shown} />
              </td>
              <td className="num">
                <Count
                  isLate
                  count={late}
                  label={`${late} late: ${label}`}
                  choice={choice}
                  shown={{ ...shown, late: 'yes' }}
                />
              </td>
            </tr>
          );
        })}
      </PlainTable>
      {shownRows.length < work.done.length && (
        <Button variant="link" className="mt-1" onClick={() => setWhole(true)}>
          Show all {work.done.length}
        </Button>
      )}
    </Section>
  );
}
