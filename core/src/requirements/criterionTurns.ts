import { clockDays } from '../criteria/clockDays.ts';
import type { Criterion } from '../criteria/criterion.ts';
import { dayFromNumber, type Instant, isInCalendar, startOfDay } from '../time/day.ts';
import type { GateFacts } from './item.ts';

/** The instants after `facts.at` at which the criterion's truth may change by the clock alone: where its days begin. */
export const criterionTurns = (criterion: Criterion, facts: GateFacts): readonly Instant[] =>
  clockDays(criterion, facts)
    .filter(isInCalendar)
    .map((day) => startOfDay(dayFromNumber(day), facts.zone));
