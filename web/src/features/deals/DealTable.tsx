import { DEAL_STATUSES } from '@ladder/core';
import { Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { shortDay, shortValue } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { LongTable } from '../../parts/LongTable.tsx';
import { StageTone } from '../../parts/Notch.tsx';
import { Options } from '../../parts/Options.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { StandingBadge } from '../../parts/StandingBadge.tsx';
import type { Choose } from './DealsPage.tsx';
import { type DealCard, type DealFilters, type Lanes, useListDealsInfiniteQuery } from './dealsApi.ts';

interface DealTableProps {
  readonly lanes: Lanes;
  readonly filters: DealFilters;
  readonly find: string;
  readonly status: string;
  readonly choose: Choose;
}

/** So many rows are read at once. */
const PAGE = 100;
const HEADS = ['Deal', 'Stage', 'Owner', 'Value#', 'Days here#', 'Close date', 'Standing', 'Step at hand', 'Next gate'];

/** Deals as rows, longest in their stage first. */
export function DealTable({ lanes, filters, find, status, choose }: DealTableProps) {
  const { id: process } = lanes.process;
  const list = useListDealsInfiniteQuery({ process, status, limit: PAGE, ...filters, ...(find ? { find } : {}) });
  const { data, error, isLoading } = list;
  const deals = data?.pages.flatMap(({ items }) => items) ?? [];
  return (
    <div className="page-body deal-table">
      <StatusChoice status={status} onChoose={(one) => choose('status', one === 'open' ? null : one)} />
      {isLoading && <Loading />}
      <ErrorNotice error={error} />
      {data && deals.length === 0 && (
        <div className="empty">
          <h2>No deals here</h2>
          <p>{find ? `Nothing is called “${find}”.` : 'Widen the filters, or begin a deal.'}</p>
        </div>
      )}
      {deals.length > 0 && (
        <LongTable heads={HEADS} rows={deals} list={list}>
          {(card) => <DealCells card={card} lanes={lanes} />}
        </LongTable>
      )}
      <ShowMore list={list} />
    </div>
  );
}

function StatusChoice({ status, onChoose }: { status: string; onChoose: (status: string) => void }) {
  return (
    <Form.Group controlId="status" className="status-pick">
      <Form.Label>Deals that are</Form.Label>
      <Form.Select size="sm" value={status} onChange={(event) => onChoose(event.target.value)}>
        <Options of={DEAL_STATUSES.map((one) => ({ id: one, name: one }))} />
      </Form.Select>
    </Form.Group>
  );
}

/** What the next gate still asks; where it asks nothing and the deal does not comply, how many older things it owes. */
function gateText({ missing, owed, standing }: DealCard): string {
  if (missing > 0) return `${missing} missing`;
  if (owed > 0) return `✓ met, owes ${owed} older`;
  return standing === 'clear' ? '✓ ready' : '✓ met';
}

function StepCell({ step }: { step: NonNullable<DealCard['step']> }) {
  const { organisation } = useSession();
  return (
    <>
      {step.name}
      {step.dueDay && (
        <div className={step.daysLate > 0 ? 'text-held' : 'muted'}>
          due {shortDay(step.dueDay, organisation.today)}
          {step.daysLate > 0 && ', late'}
        </div>
      )}
    </>
  );
}

function DealCells({ card, lanes }: { card: DealCard; lanes: Lanes }) {
  const { organisation } = useSession();
  const place = lanes.stages.findIndex(({ id }) => id === card.stage);
  return (
    <>
      <td>
        <Link to={`/deals/${card.id}`}>{card.name}</Link>
        {card.customer && <div className="small muted">{card.customer}</div>}
      </td>
      <td>
        <StageTone place={place} count={lanes.stages.length} /> {lanes.stages[place]?.name ?? 'An older stage'}
      </td>
      <td>{card.owner ?? <span className="muted">nobody</span>}</td>
      <td className="num">{shortValue(card.value)}</td>
      <td className={`num ${card.pastTarget ? 'text-flagged' : ''}`}>{card.age}</td>
      <td>{card.closeDate ? shortDay(card.closeDate, organisation.today) : <span className="muted">none</span>}</td>
      <td>{card.status === 'open' ? <StandingBadge standing={card.standing} /> : card.status}</td>
      <td className="small">{card.step && <StepCell step={card.step} />}</td>
      <td className="small">{card.status === 'open' && gateText(card)}</td>
    </>
  );
}
