import type { Instant } from '../../time/day.ts';
import type { Setting } from '../setting.ts';

/** What is known around a record of the past when its facts are read again. */
export interface RecallSetting {
  readonly zone: string;
  readonly reportingCurrency: string;
}

/**
 * One part of what a deal carries: its type, and, where a gate reads it, how it appears in the facts, what of it a move
 * keeps (S23), and how the facts come back from that. `From` is what of the deal that takes.
 */
export interface DealPart<
  Carried extends object,
  Read extends object = object,
  Kept extends object = object,
  From = Carried,
> {
  /** Never set: carries the type. */
  readonly carries?: Carried;
  /** What a new deal carries of it; left out where that depends on what the deal is begun with. */
  readonly begins?: Carried;
  /** Names of other parts of which its facts read what a deal carries of them. */
  readonly readsOf?: readonly string[];
  readonly facts?: (deal: From, setting: Setting, at: Instant) => Read;
  readonly keep?: (deal: From, setting: Setting, at: Instant) => Kept;
  readonly recall?: (kept: Kept, around: RecallSetting) => Read;
}

/** A part that gates read. */
export type FactPart<Carried extends object, Read extends object, Kept extends object, From = Carried> = Required<
  Omit<DealPart<Carried, Read, Kept, From>, 'carries' | 'begins' | 'readsOf'>
> &
  Pick<DealPart<Carried>, 'carries' | 'begins' | 'readsOf'>;
