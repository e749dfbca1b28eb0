import type { Catalogue } from '../facts/field.ts';
import type { Publish } from '../gate/publish.ts';
import type { VersionId } from '../ids.ts';
import type { RateOf } from '../money/money.ts';
import type { ProcessDocument } from '../processes/document.ts';
import type { HouseRules } from '../processes/houseRules.ts';
import type { TaskFates } from '../tasks/task.ts';
import type { Calendar } from '../time/calendar.ts';
import type { Instant } from '../time/day.ts';
import type { WaiverRights } from '../waivers/waiver.ts';
import type { Actor } from './actor.ts';

export interface Reason {
  readonly id: string;
  /** The outcome's id. */
  readonly outcome: string;
  readonly name: string;
  readonly followUp: 'asked' | 'not_asked';
  readonly withdrawn: 'no' | 'yes';
}

/** What surrounds a deal when a command is decided: its version, and what the organisation set beside it. */
export interface Setting {
  readonly version: VersionId;
  readonly document: ProcessDocument;
  readonly catalogue: Catalogue;
  readonly houseRules: HouseRules;
  /** The process's publishes that gave days of grace. */
  readonly publishes: readonly Publish[];
  readonly reasons: readonly Reason[];
  /** What becomes of a deal's open tasks as it moves. */
  readonly taskFates: TaskFates;
  readonly waiverRights: WaiverRights;
  readonly calendar: Calendar;
  readonly zone: string;
  readonly reportingCurrency: string;
  readonly rateOf: RateOf;
}

/** Who acts and when: what happened at `happenedAt` may be written down later, at `recordedAt` (S21). */
export interface Moment {
  readonly by: Actor;
  /** The person who is away and for whom it is done, where it is (S60). */
  readonly insteadOf?: string;
  readonly happenedAt: Instant;
  readonly recordedAt: Instant;
}
