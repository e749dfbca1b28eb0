import type { KeptVerdict } from '../../gate/verdict.ts';
import type { WaiverSpan } from '../../requirements/item.ts';
import { waivedIn } from '../../requirements/item.ts';
import type { Day, Instant } from '../../time/day.ts';
import type { Actor } from '../actor.ts';
import type { FactPart } from './part.ts';

/** What became of a request: decided by someone who may, taken back by who asked, or overtaken by what happened to the deal. */
export const WAIVER_DECISIONS = ['granted', 'refused', 'withdrawn', 'lapsed'] as const;

export interface WaiverDecision {
  readonly how: (typeof WAIVER_DECISIONS)[number];
  readonly at: Instant;
  readonly by: Actor;
  readonly word: string | null;
  /** Until when it was granted; no later than it was asked for. */
  readonly until: Day | null;
}

/** Why a granted waiver covers nothing any more before its day: revoked, its requirement changed, the deal went back or closed. */
export const WAIVER_ENDS = ['revoked', 'changed', 'returned', 'closed'] as const;

export interface WaiverEnd {
  readonly how: (typeof WAIVER_ENDS)[number];
  readonly at: Instant;
  readonly by: Actor;
  readonly word: string | null;
  /** The move that ended it. */
  readonly moveSeq: number | null;
}

/** A permission to pass one requirement for a time: asked for, decided, and at an end (S25, S61). */
export interface Waiver {
  readonly seq: number;
  /** Those that were asked for together are decided together. */
  readonly request: number;
  readonly requirement: string;
  /** What the requirement asked then, words aside: a waiver ends where that changes. */
  readonly substance: string;
  /** The move for which it was asked. */
  readonly target: string;
  readonly visitSeq: number;
  readonly why: string;
  /** Until the end of this local day. */
  readonly until: Day;
  readonly askedAt: Instant;
  readonly askedBy: Actor;
  /** The gate as it was then. */
  readonly verdict: KeptVerdict;
  /** Null while it is to be decided. */
  readonly decision: WaiverDecision | null;
  /** From when until when it covers its requirement, once it is granted. */
  readonly covers: { readonly from: Instant; readonly to: Instant } | null;
  readonly end: WaiverEnd | null;
}

export interface WaiversCarried {
  /** In the order in which they were asked for. */
  readonly waivers: readonly Waiver[];
}

interface WaiversRead {
  readonly waived: ReadonlySet<string>;
  readonly waivers: readonly WaiverSpan[] | null;
}

/** Permissions to pass named requirements for a time. */
export const waiversPart: FactPart<WaiversCarried, WaiversRead, { readonly waived?: readonly string[] }> = {
  begins: { waivers: [] },
  facts: (deal, _setting, at) => {
    const waivers = waiverSpans(deal);
    return { waivers, waived: waivedIn(waivers, at) };
  },
  keep: (deal, _setting, at) => ({ waived: [...waivedIn(waiverSpans(deal), at)] }),
  // Moves of the time before waivers were kept had none; what a move kept is so at its instant alone.
  recall: ({ waived = [] }) => ({ waived: new Set(waived), waivers: null }),
};

const NO_SPANS: readonly WaiverSpan[] = [];

const waiverSpans = ({ waivers }: WaiversCarried): readonly WaiverSpan[] =>
  waivers.length === 0
    ? NO_SPANS
    : waivers.flatMap(({ requirement, covers }) => (covers ? [{ requirement, ...covers }] : []));

/** Those that are still to be decided. */
export const openWaivers = ({ waivers }: WaiversCarried): readonly Waiver[] =>
  waivers.filter(({ decision }) => decision === null);

/** Those that cover their requirements at an instant. */
export const waiversInForce = ({ waivers }: WaiversCarried, at: Instant): readonly Waiver[] =>
  waivers.filter(({ covers }) => covers !== null && covers.from <= at && at < covers.to);
