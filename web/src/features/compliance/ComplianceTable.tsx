import { FINDING_NAMES, type FindingKind } from '@ladder/core';
import { Link } from 'react-router';
import { countOf } from '../../parts/format.ts';
import { Notch } from '../../parts/Notch.tsx';
import type { MeasureChoice } from '../processes/ProcessBar.tsx';
import type { ComplianceSummary } from './complianceApi.ts';

/** Whether it is told of a day that has gone by: no deals and findings are listed behind its numbers then. */
export const isPast = ({ on, today }: ComplianceSummary): boolean => on < today;

const HEAT_FULL = 0.45;

interface TableProps {
  readonly summary: ComplianceSummary;
  readonly choice: MeasureChoice;
}

const columnsOf = (kinds: readonly FindingKind[]) => ({
  gridTemplateColumns: `44px 150px 52px 200px repeat(${kinds.length}, minmax(56px, 1fr))`,
});

/** Each stage with how its deals stand, and a number for each kind of finding. */
export function ComplianceTable({ summary, choice }: TableProps) {
  return (
    <div className="compliance-table" role="table" aria-label="Compliance by stage">
      <TableHead kinds={summary.kinds} />
      <div className="ladder" role="rowgroup">
        {summary.stages.map((stage, place) => (
          <StageRow key={stage.id} summary={summary} choice={choice} stage={stage} place={place} />
        ))}
        <AllRow summary={summary} choice={choice} />
      </div>
      <p className="legend">
        <span>
          Numbers are deals with at least one such finding; the deeper the sand, the larger their share of the stage, up
          to 45%.
        </span>
        <span>
          <i className="edge-hold" />
          held: a move was refused, or something it must keep has lapsed
        </span>
      </p>
    </div>
  );
}

const TableHead = ({ kinds }: Pick<ComplianceSummary, 'kinds'>) => (
  <div className="compliance-cols" style={columnsOf(kinds)} role="row">
    <span role="columnheader" aria-label="Place" />
    <span role="columnheader" className="l">
      Stage
    </span>
    <span role="columnheader">Deals</span>
    <span role="columnheader" className="l">
      Clear · flagged · held, % of deals
    </span>
    {kinds.map((kind) => (
      <span key={kind} role="columnheader">
        {FINDING_NAMES[kind]}
      </span>
    ))}
  </div>
);

interface StageRowProps extends TableProps {
  readonly stage: ComplianceSummary['stages'][number];
  readonly place: number;
}

function StageRow({ summary, choice, stage, place }: StageRowProps) {
  const { process, kinds, stages } = summary;
  return (
    <div className="rung" style={columnsOf(kinds)} role="row">
      <div role="cell" className="notch-cell">
        <Notch place={place} count={stages.length} />
      </div>
      <div role="rowheader" className="stage-name">
        {stage.name}
      </div>
      <div role="cell" className="deals-cell">
        {isPast(summary) ? stage.deals : <Link to={`/deals?process=${process.id}&view=table`}>{stage.deals}</Link>}
      </div>
      <div role="cell">
        <StandingBar counts={stage} />
      </div>
      <KindCells summary={summary} choice={choice} stage={stage} />
    </div>
  );
}

function AllRow({ summary, choice }: TableProps) {
  const { kinds, all } = summary;
  return (
    <div className="rung all" style={columnsOf(kinds)} role="row">
      <div role="cell" />
      <div role="rowheader" className="stage-name">
        All open
      </div>
      <div role="cell" className="deals-cell">
        <b>{all.deals}</b>
      </div>
      <div role="cell">
        <StandingBar counts={all} />
      </div>
      <KindCells summary={summary} choice={choice} stage={null} />
    </div>
  );
}

/** A row's numbers, a kind of finding each; of all stages together they have no heat. */
function KindCells({ summary, choice, stage }: TableProps & { readonly stage: StageRowProps['stage'] | null }) {
  const { dealsWith, deals } = stage ?? summary.all;
  const id = stage?.id ?? null;
  return summary.kinds.map((kind) => (
    <Cell
      key={kind}
      name={`${stage?.name ?? 'All stages'}, ${FINDING_NAMES[kind]}`}
      count={dealsWith[kind] ?? 0}
      share={stage === null || deals === 0 ? 0 : (dealsWith[kind] ?? 0) / deals}
      isOn={choice.get('stage') === id && choice.get('kind') === kind}
      onChoose={isPast(summary) ? null : () => choice.choose({ stage: id, kind })}
    />
  ));
}

/** Shares of clear, flagged and held deals, told by number and edge as well as colour. */
function StandingBar({ counts: { deals, clear, flagged, held } }: { counts: ComplianceSummary['all'] }) {
  if (deals === 0) return <span className="muted">·</span>;
  const parts = [
    ['clear', clear],
    ['flagged', flagged],
    ['held', held],
  ] as const;
  return (
    <div className="standing-bar">
      {parts
        .filter(([, count]) => count > 0)
        .map(([name, count]) => (
          <i key={name} className={name} style={{ flex: count }} title={`${name}: ${countOf(count, 'deal')}`}>
            {Math.round((count / deals) * 100)}
          </i>
        ))}
    </div>
  );
}

interface CellProps {
  readonly name: string;
  readonly count: number;
  readonly share: number;
  readonly isOn: boolean;
  /** Null where no findings are listed behind the number. */
  readonly onChoose: (() => void) | null;
}

function Cell({ name, count, share, isOn, onChoose }: CellProps) {
  if (count === 0)
    return (
      <div role="cell" className="heat none">
        ·
      </div>
    );
  const heat = Math.round(Math.min(1, share / HEAT_FULL) * 100);
  const style = heat === 0 ? {} : { background: `color-mix(in srgb, var(--sand-3) ${heat}%, var(--surface))` };
  if (!onChoose)
    return (
      <div role="cell" className="heat-cell">
        <span className="heat" style={style}>
          {count}
        </span>
      </div>
    );
  return (
    <div role="cell" className="heat-cell">
      <button
        type="button"
        className={`heat ${isOn ? 'on' : ''}`}
        aria-pressed={isOn}
        aria-label={`${name}: ${countOf(count, 'deal')}`}
        style={style}
        onClick={onChoose}
      >
        {count}
      </button>
    </div>
  );
}
