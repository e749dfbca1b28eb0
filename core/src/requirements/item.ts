import type { Criterion } from '../criteria/criterion.ts';
import type { Explanation } from '../criteria/evaluate.ts';
import type { Facts } from '../criteria/facts.ts';
import type { ActivityKind } from '../facts/activityKind.ts';
import type { StageId } from '../ids.ts';
import type { CurrencyPair } from '../money/money.ts';
import { type Instant, localDayNumber } from '../time/day.ts';

/** A requirement that is not met stops the move, or lets it pass and is recorded. */
export const LEVELS = ['hold', 'flag'] as const;
export type Level = (typeof LEVELS)[number];

/** Judged at the move only, or until the deal closes (S14). */
export const BINDINGS = ['at_move', 'must_stay'] as const;
export type Binding = (typeof BINDINGS)[number];

/** Which part of the document asks an item. */
export const ASKED_AT = ['enter', 'leave', 'checklist', 'outcome', 'rule'] as const;
export type AskedAt = (typeof ASKED_AT)[number];

/** What every requirement of a document says, of whatever kind. */
export interface RequirementBase {
  readonly id: string;
  readonly level: Level;
  readonly binds: Binding;
  /** Asked only where this holds, or may hold. */
  readonly appliesWhen?: Criterion;
  /** The administrator's own words to the seller. */
  readonly message?: string;
}

/** One thing that a gate asks, wherever it was written down. */
export interface ItemBase extends RequirementBase {
  readonly kind: string;
  /** The stage that asks it; null for what an outcome asks. */
  readonly stage: StageId | null;
  readonly at: AskedAt;
}

/** What a gate reads: the facts at an instant, what is ticked, and what is waived. */
export interface GateFacts extends Facts {
  readonly at: Instant;
  /** The organisation's time zone, in which `today` is the day of `at`. */
  readonly zone: string;
  readonly ticked: ReadonlySet<string>;
  /** Stages whose steps are finished; null where that was not recorded. */
  readonly stepsFinished: ReadonlySet<string> | null;
  readonly waived: ReadonlySet<string>;
  /** From when until when what is waived; null where only what was so at `at` is known. */
  readonly waivers: readonly WaiverSpan[] | null;
}

/** A requirement that is waived for a time, half-open. */
export interface WaiverSpan {
  readonly requirement: string;
  readonly from: Instant;
  readonly to: Instant;
}

const NONE_WAIVED: ReadonlySet<string> = new Set();

/** What is waived at an instant. */
export const waivedIn = (waivers: readonly WaiverSpan[], at: Instant): ReadonlySet<string> =>
  waivers.length === 0
    ? NONE_WAIVED
    : new Set(waivers.flatMap(({ requirement, from, to }) => (from <= at && at < to ? [requirement] : [])));

/** The facts as if nothing were waived. */
export const withoutWaivers = (facts: GateFacts): GateFacts =>
  facts.waived.size === 0 && !facts.waivers?.length ? facts : { ...facts, waived: NONE_WAIVED, waivers: [] };

/** The facts as they are at another instant if nothing but the clock changes. */
export const factsAt = (facts: GateFacts, at: Instant): GateFacts => ({
  ...facts,
  ...(facts.waivers?.length ? { waived: waivedIn(facts.waivers, at) } : {}),
  at,
  today: localDayNumber(at, facts.zone),
});

/** *missing* is unmet because something is not filled in; *unmet* is filled in and not enough. */
export const ITEM_STATES = ['met', 'unmet', 'missing', 'waived', 'not_applicable'] as const;
export type ItemState = (typeof ITEM_STATES)[number];

/** Whether the item is in the way of a move. */
export const isOpen = (state: ItemState): boolean => state === 'unmet' || state === 'missing';

/** How an item can be put right, so that the screen can offer it in place. */
export type Remedy =
  | { readonly kind: 'none' }
  | { readonly kind: 'fill'; readonly fields: readonly string[] }
  | { readonly kind: 'tick'; readonly item: string }
  /** The steps of a stage are to be finished. */
  | { readonly kind: 'steps'; readonly stage: string }
  /** A step is to be done, or done again. */
  | { readonly kind: 'step'; readonly step: string }
  /** A document of this kind is to be attached. */
  | { readonly kind: 'attach'; readonly document: string }
  /** Something of this kind is to be done, and written down. */
  | { readonly kind: 'log'; readonly activity: ActivityKind }
  /** Amounts of two currencies are compared, and nobody has said what one is in the other (S33). */
  | { readonly kind: 'set_rate'; readonly rates: readonly CurrencyPair[] }
  | { readonly kind: 'decide' };

/** What a kind says of an item that applies. */
export interface Judged {
  readonly state: Extract<ItemState, 'met' | 'unmet' | 'missing'>;
  readonly explanation: Explanation | null;
  /** What was found instead, as the kind's own words need it. */
  readonly found?: string;
}
