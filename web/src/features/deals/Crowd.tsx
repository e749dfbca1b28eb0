import type { ProcessId, StageId } from '@ladder/core';
import { useState } from 'react';
import { OverlayTrigger, Popover } from 'react-bootstrap';
import { Link } from 'react-router';
import { shortMoney, shortValue } from '../../parts/format.ts';
import { ShowMore } from '../../parts/ShowMore.tsx';
import { StandingBadge } from '../../parts/StandingBadge.tsx';
import { type Lane, type Lanes, useListDealsInfiniteQuery } from './dealsApi.ts';
import type { PlacedStack } from './placeCards.ts';

interface CrowdProps {
  readonly stack: PlacedStack;
  readonly lane: Lane;
  readonly lanes: Lanes;
  readonly style: React.CSSProperties;
}

/** Deals of like age that found no room; pressing opens them as a list, but for those of a day that has gone by. */
export function Crowd({ stack, lane, lanes: { process, currency, on, today }, style }: CrowdProps) {
  const [isOpen, setOpen] = useState(false);
  const ages = stack.ageFrom === stack.ageTo ? `${stack.ageFrom} days` : `${stack.ageFrom} to ${stack.ageTo} days`;
  const look = { className: `deal-card stack ${stack.standing}`, style };
  const worth = shortMoney(stack.minor, currency);
  if (on < today)
    return (
      <div {...look}>
        <b>{stack.count}</b>
        {worth}
      </div>
    );
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
            {isOpen && <CrowdList stack={stack} stage={lane.id} process={process.id} />}
          </Popover.Body>
        </Popover>
      }
    >
      <button type="button" {...look} aria-label={`${stack.count} more deals in ${lane.name}, ${ages}`}>
        <b>+{stack.count}</b>
        {worth}
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
