import { type Day, daysBetween } from '../time/day.ts';

/** Days of a stay: until it ended, or up to today. A day before it began, as a clock that was set back has it, is none. */
export const daysOfStay = (enteredDay: Day, leftDay: Day | null, today: Day): number =>
  Math.max(0, daysBetween(enteredDay, leftDay ?? today));

/** Whether a deal is longer in its stage than its target allows: from the day after the one on which it should have moved on. */
export const isPastTarget = (moveOnDay: Day | null, today: Day): boolean => moveOnDay !== null && today > moveOnDay;
