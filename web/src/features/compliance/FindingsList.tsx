import type { StageId } from '@ladder/core';
import { FINDING_NAMES } from '@ladder/core';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, dayOf, shortDay, shortValue } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { StageTone } from '../../parts/Notch.tsx';
import { Pieces } from '../../parts/Pieces.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import type { MeasureChoice } from '../processes/ProcessBar.tsx';
import { type ComplianceSummary, type FindingRow, useListFindingsInfiniteQuery } from './complianceApi.ts';

/** The findings behind the table, each leading to its deal. */
export function FindingsList({ summary, choice }: { summary: ComplianceSummary; choice: MeasureChoice }) {
  const [stage, kind] = [choice.get('stage'), choice.get('kind')];
  const list = useListFindingsInfiniteQuery({
    process: summary.process.id,
    filters: choice.filters,
    ...(stage ? { stage: stage as StageId } : {}),
    ...(kind ? { kind } : {}),
  });
  // Never the rows of another choice under this one's title.
  const { currentData: data, error } = list;
  const rows = data?.pages.flatMap(({ items }) => items) ?? [];
  const shown = list.hasNextPage ? `the first ${rows.length}` : countOf(rows.length, 'finding');
  return (
    <section className="findings" aria-labelledby="findings-title">
      <header>
        <h2 id="findings-title">{titleOf(summary, stage, kind)}</h2>
        {data && <span className="muted small">{shown}, those that hold first</span>}
        {(stage || kind) && (
          <Button variant="link" onClick={() => choice.choose({ stage: null, kind: null })}>
            Show all
          </Button>
        )}
      </header>
      {!data && !error && <Loading />}
      <ErrorNotice error={error} />
      {data && <Rows rows={rows} summary={summary} />}
      <ShowMore list={list} />
    </section>
  );
}

function titleOf({ stages, kinds }: ComplianceSummary, stage: string | null, kind: string | null): string {
  const stageName = stages.find(({ id }) => id === stage)?.name;
  const known = kinds.find((one) => one === kind);
  const kindName = known && (stageName ? FINDING_NAMES[known].toLowerCase() : FINDING_NAMES[known]);
  return [stageName, kindName].filter((part) => part).join(': ') || 'All findings';
}

function Rows({ rows, summary }: { rows: readonly FindingRow[]; summary: ComplianceSummary }) {
  if (rows.length === 0)
    return (
      <div className="empty">
        <h2>Nothing found</h2>
        <p>Every deal here does as the process says.</p>
      </div>
    );
  return (
    <PlainTable heads={['Deal, owner', 'Stage', 'What is needed, and what is so', 'Since', 'At stake#']}>
      {rows.map((row) => (
        <Row key={`${row.deal.id} ${row.finding.key}`} row={row} summary={summary} />
      ))}
    </PlainTable>
  );
}

function Row({ row: { deal, stage, finding, others }, summary }: { row: FindingRow; summary: ComplianceSummary }) {
  const { organisation } = useSession();
  const place = summary.stages.findIndex(({ id }) => id === stage.id);
  const since = dayOf(finding.since, organisation);
  return (
    <tr>
      <td className={finding.level === 'hold' ? 'edge-hold' : 'edge-flag'}>
        <Link to={`/deals/${deal.id}`}>{deal.name}</Link>
        <div className="small muted">{deal.owner ?? 'nobody'}</div>
      </td>
      <td title={stage.name}>
        <StageTone place={place} count={summary.stages.length} />
      </td>
      <td>
        <Pieces says={finding.says} />
        {finding.actual && (
          <span>
            {' '}
            · <span className="muted">is</span> {finding.actual}
          </span>
        )}
        <div className="small muted">
          {finding.level === 'hold' ? 'holds' : 'flags'} · {FINDING_NAMES[finding.kind].toLowerCase()}
          {others > 0 && ` · also ${countOf(others, 'other finding')}`}
        </div>
      </td>
      <td className="text-nowrap">
        {shortDay(since, summary.today)}
        <div className="small muted">{finding.sinceDays === 0 ? 'today' : countOf(finding.sinceDays, 'day')}</div>
      </td>
      <td className="num">{shortValue(deal.value)}</td>
    </tr>
  );
}
