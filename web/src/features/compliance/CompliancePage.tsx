import { skipToken } from '@reduxjs/toolkit/query/react';
import '../deals/deals.css';
import './compliance.css';
import { FINDING_NAMES, type FindingKind } from '@ladder/core';
import { Link } from 'react-router';
import { countOf, percent, shortMoney } from '../../parts/format.ts';
import { Notch } from '../../parts/Notch.tsx';
import { MeasurePage } from '../processes/MeasurePage.tsx';
import { type MeasureChoice, useMeasureChoice } from '../processes/ProcessBar.tsx';
import { CompliancePages } from './CompliancePages.tsx';
import { type ComplianceSummary, useGetComplianceQuery } from './complianceApi.ts';
import { FindingsList } from './FindingsList.tsx';

/** How the open deals comply: the ladder as a table, and the findings behind every number in it. */
export function CompliancePage() {
  const choice = useMeasureChoice();
  const { process, filters } = choice;
  const { data, error, isLoading } = useGetComplianceQuery(process ? { process: process.id, filters } : skipToken);
  return (
    <MeasurePage
      title="Compliance"
      about="Which deals do as the process says"
      choice={choice}
      asked={{ isLoading, error }}
      pages={<CompliancePages />}
    >
      {data && <Summary summary={data} choice={choice} />}
    </MeasurePage>
  );
}

function Summary({ summary, choice }: { summary: ComplianceSummary; choice: MeasureChoice }) {
  if (summary.all.deals === 0)
    return (
      <div className="empty">
        <h2>No open deals here</h2>
        <p>Widen the team or owner, or look at another process.</p>
      </div>
    );
  return (
    <>
      <KeyFigures summary={summary} />
      <div className="page-body">
        <Table summary={summary} choice={choice} />
        <FindingsList summary={summary} choice={choice} />
      </div>
    </>
  );
}

function KeyFigures({
  summary: { all, heldMinor, heldWithoutRate, currency, olderVersions },
}: {
  summary: ComplianceSummary;
}) {
  const open = Object.values(all.findings).reduce((sum, count) => sum + count, 0);
  return (
    <dl className="key-figures">
      <div>
        <dt>Compliance rate</dt>
        <dd className="figure-head">{percent(all.clear / all.deals)}</dd>
        <dd>
          {all.clear} of {countOf(all.deals, 'deal')} clear
        </dd>
      </div>
      <div>
        <dt>Deals held</dt>
        <dd className="figure-head">{all.held}</dd>
        <dd>{all.flagged} more only flagged</dd>
      </div>
      <div>
        <dt>Value of held deals</dt>
        <dd className="figure-head">{shortMoney(heldMinor, currency)}</dd>
        <dd>
          {heldWithoutRate > 0
            ? `${countOf(heldWithoutRate, 'more deal')} without a rate`
            : 'cannot move on as they are'}
        </dd>
      </div>
      <div>
        <dt>Findings open</dt>
        <dd className="figure-head">{open}</dd>
        <dd>a deal can carry several</dd>
      </div>
      <div>
        <dt>On older versions</dt>
        <dd className="figure-head">{olderVersions}</dd>
        <dd>no finding, only worth knowing</dd>
      </div>
    </dl>
  );
}

const HEAT_FULL = 0.45;

interface TableProps {
  readonly summary: ComplianceSummary;
  readonly choice: MeasureChoice;
}

const columnsOf = (kinds: readonly FindingKind[]) => ({
  gridTemplateColumns: `44px 150px 52px 200px repeat(${kinds.length}, minmax(56px, 1fr))`,
});

function Table({ summary, choice }: TableProps) {
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

function StageRow({ summary: { process, kinds, stages }, choice, stage, place }: StageRowProps) {
  return (
    <div className="rung" style={columnsOf(kinds)} role="row">
      <div role="cell" className="notch-cell">
        <Notch place={place} count={stages.length} />
      </div>
      <div role="rowheader" className="stage-name">
        {stage.name}
      </div>
      <div role="cell" className="deals-cell">
        <Link to={`/deals?process=${process.id}&view=table`}>{stage.deals}</Link>
      </div>
      <div role="cell">
        <StandingBar counts={stage} />
      </div>
      {kinds.map((kind) => (
        <Cell
          key={kind}
          name={`${stage.name}, ${FINDING_NAMES[kind]}`}
          count={stage.dealsWith[kind] ?? 0}
          share={stage.deals === 0 ? 0 : (stage.dealsWith[kind] ?? 0) / stage.deals}
          isOn={choice.get('stage') === stage.id && choice.get('kind') === kind}
          onChoose={() => choice.choose({ stage: stage.id, kind })}
        />
      ))}
    </div>
  );
}

function AllRow({ summary: { kinds, all }, choice }: TableProps) {
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
      {kinds.map((kind) => (
        <Cell
          key={kind}
          name={`All stages, ${FINDING_NAMES[kind]}`}
          count={all.dealsWith[kind] ?? 0}
          share={0}
          isOn={choice.get('stage') === null && choice.get('kind') === kind}
          onChoose={() => choice.choose({ stage: null, kind })}
        />
      ))}
    </div>
  );
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
  readonly onChoose: () => void;
}

function Cell({ name, count, share, isOn, onChoose }: CellProps) {
  if (count === 0)
    return (
      <div role="cell" className="heat none">
        ·
      </div>
    );
  const heat = Math.round(Math.min(1, share / HEAT_FULL) * 100);
  return (
    <div role="cell" className="heat-cell">
      <button
        type="button"
        className={`heat ${isOn ? 'on' : ''}`}
        aria-pressed={isOn}
        aria-label={`${name}: ${countOf(count, 'deal')}`}
        style={heat === 0 ? {} : { background: `color-mix(in srgb, var(--sand-3) ${heat}%, var(--surface))` }}
        onClick={onChoose}
      >
        {count}
      </button>
    </div>
  );
}
