import { skipToken } from '@reduxjs/toolkit/query/react';
import '../deals/deals.css';
import './compliance.css';
import { useSession } from '../../client/session.ts';
import { DayChoice } from '../../parts/DayChoice.tsx';
import { countOf, percent, shortMoney } from '../../parts/format.ts';
import { PastNote } from '../../parts/PastNote.tsx';
import { MeasurePage } from '../processes/MeasurePage.tsx';
import { type MeasureChoice, useMeasureChoice } from '../processes/ProcessBar.tsx';
import { CompliancePages } from './CompliancePages.tsx';
import { ComplianceTable, isPast } from './ComplianceTable.tsx';
import { type ComplianceSummary, useGetComplianceQuery } from './complianceApi.ts';
import { FindingsList } from './FindingsList.tsx';

/** How the open deals comply: the ladder as a table, and the findings behind every number in it. */
export function CompliancePage() {
  const choice = useMeasureChoice();
  const { process, filters } = choice;
  const { organisation } = useSession();
  const [on, known] = [choice.get('on'), choice.get('known')];
  const asked = process ? { process: process.id, filters, on, known } : skipToken;
  const { data, currentData, error, isLoading } = useGetComplianceQuery(asked);
  // Not that of another day under what was wrong with this one.
  const summary = error ? currentData : data;
  return (
    <MeasurePage
      title="Compliance"
      about="Which deals do as the process says"
      choice={choice}
      asked={{ isLoading, error }}
      pages={<CompliancePages />}
      narrowed={
        <DayChoice
          label="As of"
          last={organisation.today}
          value={on ?? organisation.today}
          onChoose={(day) => choice.choose({ on: day, stage: null, kind: null })}
        />
      }
    >
      {summary && <Summary summary={summary} choice={choice} />}
    </MeasurePage>
  );
}

function Summary({ summary, choice }: { summary: ComplianceSummary; choice: MeasureChoice }) {
  const past = isPast(summary) && (
    <PastNote
      of="deals"
      told={summary}
      known={choice.get('known')}
      onKnown={(known) => choice.choose({ known })}
      onToday={() => choice.choose({ on: null, known: null })}
    />
  );
  if (summary.all.deals === 0)
    return (
      <div className="empty">
        <h2>{past ? 'No open deals on that day' : 'No open deals here'}</h2>
        <p>Widen the team or owner, or look at another {past ? 'day or process' : 'process'}.</p>
        {past}
      </div>
    );
  return (
    <>
      <KeyFigures summary={summary} />
      <div className="page-body">
        <ComplianceTable summary={summary} choice={choice} />
        {past || <FindingsList summary={summary} choice={choice} />}
      </div>
    </>
  );
}

function KeyFigures({ summary }: { summary: ComplianceSummary }) {
  const { all, heldMinor, heldWithoutRate, currency, olderVersions } = summary;
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
            : isPast(summary)
              ? 'could not move on as they were'
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
