import './deal.css';
import { isMoney, outcomeOf, stageOf, targetFromText } from '@ladder/core';
import { Link, useParams, useSearchParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { shortDay, shortValue } from '../../parts/format.ts';
import { StandingBadge } from '../../parts/StandingBadge.tsx';
import { MessagesPanel } from '../messages/MessagesPanel.tsx';
import { Checklist } from './Checklist.tsx';
import { ClimbLadder } from './ClimbLadder.tsx';
import { ClosedNotice } from './ClosedNotice.tsx';
import { DealActions } from './DealActions.tsx';
import { DealGlimpse } from './DealGlimpse.tsx';
import { DealHeading } from './DealHeading.tsx';
import { DocumentsPanel } from './DocumentsPanel.tsx';
import { type DealDetail, useGetDealQuery, usePreviewMoveQuery } from './dealsApi.ts';
import { FieldsPanel } from './FieldsPanel.tsx';
import { GatePanel } from './GatePanel.tsx';
import { JournalPanel } from './JournalPanel.tsx';
import { NextActionPart } from './NextActionPart.tsx';
import { OpenFindings } from './OpenFindings.tsx';
import { StepsPanel } from './StepsPanel.tsx';
import { TasksPanel } from './TasksPanel.tsx';
import { WaiversPanel } from './WaiversPanel.tsx';
import { WatchButton } from './WatchButton.tsx';

/** One deal: where it stands on the ladder, what is missing with its remedy in place, and all that happened. */
export function DealPage() {
  const { deal: id = '' } = useParams();
  const { currentData: deal, error } = useGetDealQuery(id);
  if (deal) return <OpenedDeal key={deal.id} deal={deal} />;
  if (!error) return <DealGlimpse id={id} />;
  return (
    <div className="page-body">
      <ErrorNotice error={error} />
      <p className="mt-2">
        <Link to="/deals">Back to the deals</Link>
      </p>
    </div>
  );
}

function OpenedDeal({ deal }: { deal: DealDetail }) {
  const [search, setSearch] = useSearchParams();
  const toward = search.get('toward');
  const target = toward === null ? null : targetFromText(toward);
  const { currentData: other } = usePreviewMoveQuery(
    { deal: deal.id, target: target ?? { to: 'stage', stage: deal.stage } },
    { skip: target === null || deal.status.state !== 'open' },
  );
  // Until the other gate is read the next one stays: what was opened beside it is not lost.
  const verdict = target === null || deal.status.state !== 'open' ? deal.gate : (other ?? deal.gate);
  return (
    <>
      <DealHead deal={deal} verdict={verdict} />
      <div className="deal-work">
        <ClimbLadder deal={deal} />
        <div className="deal-mid">
          {verdict && (
            <GatePanel deal={deal} verdict={verdict} isDetour={target !== null} onBack={() => setSearch({})} />
          )}
          {deal.status.state !== 'open' && <ClosedNotice deal={deal} />}
          <WaiversPanel deal={deal} />
          <OpenFindings deal={deal} verdict={verdict} />
          <NextActionPart deal={deal} />
          <StepsPanel deal={deal} />
          <TasksPanel deal={deal} />
          <Checklist deal={deal} />
          <DocumentsPanel deal={deal} />
          <MessagesPanel deal={deal} />
          <FieldsPanel deal={deal} />
        </div>
        <JournalPanel deal={deal} />
      </div>
    </>
  );
}

function DealHead({ deal, verdict }: { deal: DealDetail; verdict: DealDetail['gate'] }) {
  const { organisation } = useSession();
  const stage = stageOf(deal.document, deal.stage);
  const { value, close_date: closeDate, owner } = deal.values;
  const version = `v${deal.version.number}${deal.version.state === 'live' ? '' : ' (an older version)'}`;
  const facts = [
    ['Value', shortValue(isMoney(value) ? value : null)],
    ['Chance', `${stage?.chance ?? 0}%`],
    ['Close date', typeof closeDate === 'string' ? shortDay(closeDate, organisation.today) : 'none'],
    ['Owner', typeof owner === 'string' ? (deal.names[owner] ?? 'Someone who left') : 'nobody'],
    ...(deal.customer ? [['Customer', deal.customer.name] as const] : []),
  ] as const;
  const badge =
    deal.status.state === 'open' ? (
      <StandingBadge standing={deal.standing} />
    ) : (
      <span className="state plain">{endWords(deal)}</span>
    );
  return (
    <DealHeading
      process={deal.process.id}
      crumb={`${deal.process.name} ${version} / ${stage?.name}`}
      name={deal.name}
      badge={
        <>
          {badge}
          <WatchButton deal={deal.id} />
        </>
      }
      facts={facts}
    >
      <DealActions deal={deal} verdict={verdict} />
    </DealHeading>
  );
}

/** How it ended. */
const endWords = ({ status, document }: DealDetail): string =>
  'outcome' in status ? (outcomeOf(document, status.outcome)?.name ?? status.outcome) : 'Voided';
