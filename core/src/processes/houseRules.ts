import type { Level } from '../requirements/item.ts';
import type { Instant } from '../time/day.ts';

/** Rules of a process about time and tidiness; all off in a bare process (S18). */
export const HOUSE_RULES = ['past_target', 'idle', 'close_date_past', 'no_next_action', 'step_late'] as const;
export type HouseRule = (typeof HOUSE_RULES)[number];

/** A rule that is on has a level, and the instant since which it is asked. */
export type HouseRules = Readonly<Record<HouseRule, { readonly level: Level; readonly since: Instant } | null>>;

export const NO_HOUSE_RULES: HouseRules = {
  past_target: null,
  idle: null,
  close_date_past: null,
  no_next_action: null,
  step_late: null,
};
