import type { FieldHolder } from '../facts/field.ts';
import type { Values } from '../facts/value.ts';
import type { RateOf } from '../money/money.ts';

/** All that a criterion can read about a deal at one moment. Days are whole days since 1970-01-01. */
export interface Facts {
  readonly values: Values;
  /** The day on which the present stay in a stage began. */
  readonly enteredDay: number;
  /** The day of the last call, message, meeting, visit or note; null where there was none. */
  readonly lastActivityDay: number | null;
  readonly today: number;
  readonly rateOf: RateOf;
  /** The currency in which a formula of each holder counts amounts. */
  readonly currencyOf: Readonly<Record<FieldHolder, string>>;
}
