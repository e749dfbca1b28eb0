import { skipToken } from '@reduxjs/toolkit/query/react';
import '../deals/deals.css';
import '../compliance/compliance.css';
import './movement.css';
import { useSession } from '../../client/session.ts';
import { DayChoice } from '../../parts/DayChoice.tsx';
import { countOf, percent, shortDay } from '../../parts/format.ts';
import { Notch } from '../../parts/Notch.tsx';
import { PastNote } from '../../parts/PastNote.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { MeasurePage } from '../processes/MeasurePage.tsx';
import { type MeasureChoice, useMeasureChoice, usePeriod } from '../processes/ProcessBar.tsx';
import { type Movement, useGetMovementQuery } from './movementApi.ts';

const PERIODS = [
  { id: '91', name: 'Last 13 weeks' },
  { id: '182', name: 'Last 26 weeks' },
  { id: '365', name: 'Last 12 months' },
  { id: '730', name: 'Last two years' },
];

/** How deals really move: per stage what entered and how it left, and how long it stayed. */
export function MovementPage() {
  const choice = useMeasureChoice();
  const { process, filters } = choice;
  const { organisation } = useSession();
  const [on, known] = [choice.get('on'), choice.get('known')];
  const until = on ?? organisation.today;
  const { from, shown } = usePeriod(choice, PERIODS, '365', until);
  const { data, currentData, error, isLoading } = useGetMovementQuery(
    process ? { process: process.id, from, to: on, known, ...filters } : skipToken,
  );
  // Not that of another day under what was wrong with this one.
  const movement = error ? currentData : data;
  return (
    <MeasurePage
      title="Movement"
      about="How deals really move"
      choice={choice}
      asked={{ isLoading, error }}
      narrowed={
        <>
          {shown}
          <DayChoice
            label="As of"
            last={organisation.today}
            value={until}
            onChoose={(day) => choice.choose({ on: day })}
          />
        </>
      }
    >
      {movement && <MovementOf movement={movement} choice={choice} />}
    </MeasurePage>
  );
}

function MovementOf({ movement, choice }: { movement: Movement; choice: MeasureChoice }) {
  const { won, lost, started, winShare, medianCycleDays, from, to, stages, version } = movement;
  const { today } = useSession().organisation;
  const longest = stages
    .filter(({ medianDays, targetDays, staysEnded }) => medianDays !== null && targetDays !== null && staysEnded >= 5)
    .toSorted((a, b) => over(b) - over(a))[0];
  const past = to < today && (
    <PastNote
      of="moves"
      told={{ on: to, today, version }}
      known={choice.get('known')}
      onKnown={(known) => choice.choose({ known })}
      onToday={() => choice.choose({ on: null, known: null })}
    />
  );
  if (stages.length === 0)
    return (
      <div className="empty">
        <h2>No stages on that day</h2>
        <p>The process was published later, and no deal had begun.</p>
        {past}
      </div>
    );
  return (
    <>
      <dl className="key-figures">
        <div>
          <dt>Win rate</dt>
          <dd className="figure-head">{winShare ? percent(winShare.share) : '–'}</dd>
          <dd>
            {winShare
              ? `${won} of ${winShare.of} closed · interval ${interval(winShare)}`
              : 'nothing closed in this period'}
          </dd>
        </div>
        <div>
          <dt>Median cycle, won deals</dt>
          <dd className="figure-head">{medianCycleDays === null ? '–' : countOf(medianCycleDays, 'day')}</dd>
          <dd>targets add up to {stages.reduce((sum, { targetDays }) => sum + (targetDays ?? 0), 0)} days</dd>
        </div>
        <div>
          <dt>Begun</dt>
          <dd className="figure-head">{started}</dd>
          <dd>
            {won} won, {lost} lost
          </dd>
        </div>
        <div>
          <dt>Longest over its target</dt>
          <dd className="figure-head">{longest && over(longest) > 0 ? longest.name : 'none'}</dd>
          <dd>
            {longest && over(longest) > 0
              ? `median ${longest.medianDays} for ${longest.targetDays} days`
              : 'every median is within its target'}
          </dd>
        </div>
      </dl>
      <div className="page-body">
        {past}
        <Table movement={movement} />
        <StepsTable stages={stages} />
        <p className="legend">
          <span>
            Moves from {shortDay(from, today)} to {shortDay(to, today)}, taken-back ones left out. Moved on is told of
            all stays that ended, with its 95% interval. Open deals are as of {past ? 'that day' : 'today'}.
          </span>
        </p>
      </div>
    </>
  );
}

/** So few runs are told without a share: nothing is said of fewer. */
const FEW = 5;

/** How each stage's steps were carried out: their median days, and the share of each result. */
function StepsTable({ stages }: Pick<Movement, 'stages'>) {
  const rows = stages.flatMap((stage) => stage.steps.map((step) => ({ stage, step })));
  if (rows.length === 0) return null;
  return (
    <section className="movement-steps" aria-labelledby="movement-steps-title">
      <h2 id="movement-steps-title">Guided steps</h2>
      <PlainTable heads={['Stage', 'Step', 'Ended#', 'Median days#', 'Results']}>
        {rows.map(({ stage, step }) => (
          <tr key={`${stage.stage} ${step.step}`}>
            <td>{stage.name}</td>
            <td>{step.name}</td>
            <td className="num">{step.runs}</td>
            <td className="num">{step.medianDays ?? ''}</td>
            <td>
              {step.results
                .map(({ name, count }) =>
                  step.runs < FEW ? `${name} ${count}` : `${name} ${percent(count / step.runs)} (${count})`,
                )
                .join(' · ')}
            </td>
          </tr>
        ))}
      </PlainTable>
    </section>
  );
}

type StageRow = Movement['stages'][number];

const over = ({ medianDays, targetDays }: StageRow): number => (medianDays ?? 0) - (targetDays ?? 0);
const interval = ({ low, high }: { low: number; high: number }): string => `${Math.round(low * 100)}–${percent(high)}`;

const HEADS: readonly (readonly [head: string, className?: string])[] = [
  ['Stage', 'l'],
  ['Entered'],
  ['Moved on, share with interval', 'l'],
  ['Lost here'],
  ['Returned'],
  ['Median days, against target', 'l'],
  ['Open'],
  ['Past target'],
];

function Table({ movement: { stages } }: { movement: Movement }) {
  const longest = stages.map(({ medianDays, targetDays }) => Math.max(medianDays ?? 0, targetDays ?? 0));
  const scale = Math.max(10, ...longest) * 1.15;
  return (
    <div className="movement-table" role="table" aria-label="Movement by stage">
      <div className="movement-cols" role="row">
        <span role="columnheader" aria-label="Place" />
        {HEADS.map(([head, className]) => (
          <span key={head} role="columnheader" className={className}>
            {head}
          </span>
        ))}
      </div>
      <div className="ladder" role="rowgroup">
        {stages.map((stage, place) => (
          <StageLine key={stage.stage} stage={stage} place={place} count={stages.length} scale={scale} />
        ))}
        <AllStages stages={stages} />
      </div>
    </div>
  );
}

interface StageLineProps {
  readonly stage: StageRow;
  readonly place: number;
  readonly count: number;
  readonly scale: number;
}

function StageLine({ stage, place, count, scale }: StageLineProps) {
  return (
    <div className="rung" role="row">
      <div role="cell" className="notch-cell">
        <Notch place={place} count={count} />
      </div>
      <div role="rowheader" className="stage-name">
        {stage.name}
      </div>
      <div role="cell" className="r">
        {stage.entered}
      </div>
      <div role="cell">
        <MovedOn stage={stage} />
      </div>
      <CountCell count={stage.lost} />
      <CountCell count={stage.returned} />
      <div role="cell">
        <MedianDays stage={stage} scale={scale} />
      </div>
      <CountCell count={stage.openDeals} />
      <CountCell count={stage.openPastTarget} className={stage.openPastTarget > 0 ? 'text-flagged' : ''} />
    </div>
  );
}

const CountCell = ({ count, className = '' }: { count: number; className?: string }) => (
  <div role="cell" className={`r ${className}`}>
    {count || '·'}
  </div>
);

function AllStages({ stages }: { stages: readonly StageRow[] }) {
  const sum = (part: (stage: StageRow) => number) => stages.reduce((total, stage) => total + part(stage), 0);
  return (
    <div className="rung all" role="row">
      <div role="cell" />
      <div role="rowheader" className="stage-name">
        All stages
      </div>
      <div role="cell" />
      <div role="cell" />
      <SumCell sum={sum(({ lost }) => lost)} />
      <SumCell sum={sum(({ returned }) => returned)} />
      <div role="cell" className="small muted">
        bar: median · line: target
      </div>
      <SumCell sum={sum(({ openDeals }) => openDeals)} />
      <SumCell sum={sum(({ openPastTarget }) => openPastTarget)} />
    </div>
  );
}

const SumCell = ({ sum }: { sum: number }) => (
  <div role="cell" className="r">
    <b>{sum}</b>
  </div>
);

function MovedOn({ stage: { movedOn, movedOnShare } }: { stage: StageRow }) {
  if (!movedOnShare) return <span className="muted">·</span>;
  const { share, low, high, of } = movedOnShare;
  return (
    <div className="moved-on">
      <svg viewBox="0 0 100 20" preserveAspectRatio="none" aria-hidden>
        <rect x="0" y="8" width="100" height="4" className="axis" />
        <rect x={low * 100} y="5" width={(high - low) * 100} height="10" className="interval" />
        <rect x={share * 100 - 0.8} y="2" width="1.8" height="16" className="point" />
      </svg>
      <span>
        <b>{percent(share)}</b> of {of}
        <small>
          {movedOn} moved on, {interval(movedOnShare)}
        </small>
      </span>
    </div>
  );
}

function MedianDays({ stage: { medianDays, targetDays }, scale }: { stage: StageRow; scale: number }) {
  if (medianDays === null) return <span className="muted">·</span>;
  const late = targetDays !== null && medianDays > targetDays;
  return (
    <div className="median-days">
      <svg viewBox="0 0 100 20" preserveAspectRatio="none" aria-hidden>
        <rect
          x="0"
          y="5"
          width={(Math.min(medianDays, targetDays ?? medianDays) / scale) * 100}
          height="10"
          className="interval"
        />
        {late && targetDays !== null && (
          <rect
            x={(targetDays / scale) * 100}
            y="5"
            width={((medianDays - targetDays) / scale) * 100}
            height="10"
            className="late"
          />
        )}
        {targetDays !== null && (
          <rect x={(targetDays / scale) * 100 - 0.5} y="0" width="1" height="20" className="target" />
        )}
      </svg>
      <span className={late ? 'text-flagged' : ''}>
        {medianDays}
        {targetDays === null ? ' days' : ` of ${targetDays}`}
      </span>
    </div>
  );
}
