import type { ActivityCounts, ActivitySpan } from '../facts/activityKind.ts';
import type { FieldHolder } from '../facts/field.ts';
import type { Values } from '../facts/value.ts';
import type { RateOf } from '../money/money.ts';
import type { Day } from '../time/day.ts';

/** All that a criterion can read about a deal at one moment. Days are whole days since 1970-01-01. */
export interface Facts {
  readonly values: Values;
  /** The day on which the present stay in a stage began. */
  readonly enteredDay: number;
  /** The day of the last call, message, meeting, visit or note; null where there was none. */
  readonly lastActivityDay: number | null;
  readonly closeDateMoves: number;
  /** How often each thing was done; null for a stay of which it was not recorded. */
  readonly activityCounts: Readonly<Record<ActivitySpan, ActivityCounts | null>>;
  /** How many documents of each kind are attached; null where that was not recorded. */
  readonly documentCounts: Readonly<Record<string, number>> | null;
  /** How each step last ended; null where that was not recorded. */
  readonly stepResults: Readonly<Record<string, { readonly result: string; readonly day: Day }>> | null;
  readonly today: number;
  readonly rateOf: RateOf;
  /** The currency in which a formula of each holder counts amounts. */
  readonly currencyOf: Readonly<Record<FieldHolder, string>>;
}
