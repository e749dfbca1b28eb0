import { isMoney } from '../facts/value.ts';
import { parseDay } from '../time/day.ts';
import { type Criterion, conditionsOf, type JourneyFact, type Term, termsOf } from './criterion.ts';
import type { Facts } from './facts.ts';
import { termValue } from './terms.ts';

/** A term as a straight line over the day judged: base + slope x today. */
interface Line {
  readonly base: number;
  readonly slope: 0 | 1;
}

/**
 * The days after `facts.today` on which the criterion's truth may change if no fact does (S20). Every term is a
 * straight line over time, so two of them can change order only where they cross.
 */
export function clockDays(criterion: Criterion, facts: Facts): readonly number[] {
  const days = new Set<number>();
  for (const condition of conditionsOf(criterion)) {
    const [left, ...others] = termsOf(condition).map((term) => lineOf(term, facts));
    for (const right of others) for (const day of crossings(left ?? null, right)) days.add(day);
  }
  return [...days].filter((day) => day > facts.today).sort((a, b) => a - b);
}

function lineOf(term: Term, facts: Facts): Line | null {
  switch (term.of) {
    case 'today':
      return { base: term.plus, slope: 1 };
    case 'journey':
      return journeyLine(term.fact, facts);
    case 'field':
    case 'step':
    case 'activities':
    case 'documents':
    case 'value':
      return constantLine(termValue(term, facts));
  }
}

function journeyLine(fact: JourneyFact, { enteredDay, lastActivityDay, closeDateMoves }: Facts): Line {
  switch (fact) {
    case 'days_in_stage':
      return { base: -enteredDay, slope: 1 };
    case 'days_since_activity':
      return { base: -(lastActivityDay ?? enteredDay), slope: 1 };
    case 'close_date_moves':
      return { base: closeDateMoves, slope: 0 };
  }
}

function constantLine(value: unknown): Line | null {
  if (isMoney(value)) return null;
  const base = typeof value === 'number' ? value : typeof value === 'string' ? parseDay(value) : null;
  return base === null ? null : { base, slope: 0 };
}

function crossings(left: Line | null, right: Line | null): readonly number[] {
  if (!left || !right || left.slope === right.slope) return [];
  const at = (right.base - left.base) / (left.slope - right.slope);
  return [Math.floor(at), Math.ceil(at), Math.floor(at) + 1];
}
