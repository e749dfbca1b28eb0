import { DEAL_STATUSES } from '@ladder/core';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { useSession } from '../../client/session.ts';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { countOf, shortDay, shortValue } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { LongTable } from '../../parts/LongTable.tsx';
import { StageTone } from '../../parts/Notch.tsx';
import { Options } from '../../parts/Options.tsx';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { StandingBadge } from '../../parts/StandingBadge.tsx';
import type { Choose } from './DealsPage.tsx';
import { type DealCard, type DealFilters, type Lanes, useListDealsInfiniteQuery } from './dealsApi.ts';
import { OwnerDialog } from './OwnerDialog.tsx';

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
  const choice = useChoice(deals);
  return (
    <div className="page-body deal-table">
      <div className="table-bar">
        <StatusChoice status={status} onChoose={(one) => choose('status', one === 'open' ? null : one)} />
        {choice.chosen.length > 0 && <ChosenBar choice={choice} />}
      </div>
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
          {(card) => <DealCells card={card} lanes={lanes} choice={choice} />}
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

interface Choice {
  readonly chosen: readonly DealCard[];
  readonly toggle: (card: DealCard) => void;
  readonly clear: () => void;
}

/** So many can be changed at once. */
const MOST_CHOSEN = 100;

/** Rows that were ticked; those that are not in the list any more are not chosen either. */
function useChoice(deals: readonly DealCard[]): Choice {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
  const chosen = deals.filter(({ id }) => ids.has(id)).slice(0, MOST_CHOSEN);
  const toggle = ({ id }: DealCard) =>
    setIds(new Set(ids.has(id) ? [...ids].filter((one) => one !== id) : [...ids, id]));
  return { chosen, toggle, clear: () => setIds(new Set()) };
}

/** What can be done with the rows that were ticked. */
function ChosenBar({ choice: { chosen, clear } }: { choice: Choice }) {
  const [isAsking, setAsking] = useState(false);
  return (
    <div className="chosen-bar">
      <span>{countOf(chosen.length, 'deal')} chosen</span>
      <Button size="sm" onClick={() => setAsking(true)}>
        Change the owner…
      </Button>
      <Button size="sm" variant="link" onClick={clear}>
        Choose none
      </Button>
      {isAsking && <OwnerDialog deals={chosen} onDone={clear} onClose={() => setAsking(false)} />}
    </div>
  );
}

interface DealCellsProps {
  readonly card: DealCard;
  readonly lanes: Lanes;
  readonly choice: Choice;
}

function ChoiceBox({ card, choice: { chosen, toggle } }: Pick<DealCellsProps, 'card' | 'choice'>) {
  const { person } = useSession();
  const isChosen = chosen.some(({ id }) => id === card.id);
  if (person.role === 'viewer' || card.status === 'voided') return null;
  return (
    <Form.Check
      aria-label={`Choose ${card.name}`}
      checked={isChosen}
      disabled={!isChosen && chosen.length >= MOST_CHOSEN}
      onChange={() => toggle(card)}
    />
  );
}

function DealCells({ card, lanes, choice }: DealCellsProps) {
  const { organisation } = useSession();
  const place = lanes.stages.findIndex(({ id }) => id === card.stage);
  return (
    <>
      <td>
        <div className="choosable">
          <ChoiceBox card={card} choice={choice} />
          <div>
            <Link to={`/deals/${card.id}`}>{card.name}</Link>
            {card.customer && <div className="small muted">{card.customer}</div>}
          </div>
        </div>
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
