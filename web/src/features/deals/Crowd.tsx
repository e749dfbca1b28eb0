import type { ProcessId, StageId } from '@ladder/core';
import { useState } from 'react';
import { OverlayTrigger, Popover } from 'react-bootstrap';
import { Link } from 'react-router';
import { shortMoney, shortValue } from '../../parts/format.ts';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { StandingBadge } from '../../parts/StandingBadge.tsx';
import { type Lane, useListDealsInfiniteQuery } from './dealsApi.ts';
import type { PlacedStack } from './placeCards.ts';

interface CrowdProps {
  readonly stack: PlacedStack;
  readonly lane: Lane;
  readonly process: ProcessId;
  readonly currency: string;
  readonly style: React.CSSProperties;
}

/** Deals of like age that found no room; pressing opens them as a list. */
export function Crowd({ stack, lane, process, currency, style }: CrowdProps) {
  const [isOpen, setOpen] = useState(false);
  const ages = stack.ageFrom === stack.ageTo ? `${stack.ageFrom} days` : `${stack.ageFrom} to ${stack.ageTo} days`;
  return (
    <OverlayTrigger
      trigger="click"
      rootClose
      show={isOpen}
      onToggle={setOpen}
      overlay={
        <Popover>
          <Popover.Header>
            {lane.name}, {ages}
          </Popover.Header>
          <Popover.Body className="crowd-list">
            {isOpen && <CrowdList stack={stack} stage={lane.id} process={process} />}
          </Popover.Body>
        </Popover>
      }
    >
      <button
        type="button"
        className={`deal-card stack ${stack.standing}`}
        style={style}
        aria-label={`${stack.count} more deals in ${lane.name}, ${ages}`}
      >
        <b>+{stack.count}</b>
        {shortMoney(stack.minor, currency)}
      </button>
    </OverlayTrigger>
  );
}

function CrowdList({ stack, stage, process }: { stack: PlacedStack; stage: StageId; process: ProcessId }) {
  const list = useListDealsInfiniteQuery({
    process,
    stage,
    ageFrom: stack.ageFrom,
    ageTo: stack.ageTo,
    limit: 20,
  });
  const deals = list.data?.pages.flatMap(({ items }) => items) ?? [];
  return (
    <>
      {deals.map((card) => (
        <Link key={card.id} to={`/deals/${card.id}`}>
          <span>{card.name}</span>
          <span className="muted">{shortValue(card.value)}</span>
          <StandingBadge standing={card.standing} />
        </Link>
      ))}
      {list.isFetching && <span className="muted">Loading…</span>}
      <ShowMore list={list} />
    </>
  );
}
