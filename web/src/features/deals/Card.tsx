import type { Ref } from 'react';
import { useSession } from '../../client/session.ts';
import { shortDay, shortValue } from '../../parts/format.ts';
import type { DealCard } from './dealsApi.ts';

/** What a card says at its right: what holds it, what flags it, what is missing, or that it is ready. */
function cardState(card: DealCard): string {
  if (card.standing === 'held')
    return card.missing > 0 ? `${card.missing} missing` : card.owed > 0 ? `owes ${card.owed}` : 'lapsed';
  if (card.standing === 'flagged') return card.findings === 1 ? '1 flag' : `${card.findings} flags`;
  return card.missing > 0 ? `${card.missing} missing` : '✓ ready';
}

/** The class that gives a card its edge. */
const edgeOf = (card: DealCard): string =>
  card.standing === 'clear' ? (card.missing === 0 ? 'ready' : '') : card.standing;

/** The step at hand and its day: in the card, and shown where one points at it or comes to it by key. */
function CardStep({ step }: { step: NonNullable<DealCard['step']> }) {
  const { organisation } = useSession();
  const due = step.dueDay && `, due ${shortDay(step.dueDay, organisation.today)}`;
  return (
    <small>
      {step.name}
      {due}
    </small>
  );
}

interface CardProps extends React.HTMLAttributes<HTMLAnchorElement> {
  readonly card: DealCard;
  readonly ref?: Ref<HTMLAnchorElement>;
}

/** A deal on its lane. */
export function Card({ card, className = '', ref, ...rest }: CardProps) {
  return (
    <a
      ref={ref}
      href={`/deals/${card.id}`}
      className={`deal-card ${edgeOf(card)} ${className}`}
      title={`${card.name}, ${shortValue(card.value)}, ${card.age} days`}
      {...rest}
    >
      {card.step && card.step.daysLate > 0 && <i title="The step at hand is late">late</i>}
      <b>{card.name}</b>
      <span>{shortValue(card.value)}</span>
      <em>{cardState(card)}</em>
      {card.step && <CardStep step={card.step} />}
    </a>
  );
}
