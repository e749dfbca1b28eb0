import type { FactValue } from '../../facts/value.ts';
import type { Instant } from '../../time/day.ts';
import type { DealPart } from './part.ts';

/** Facts kept as dated intervals (S22). */
export const SPAN_ASPECTS = ['owner', 'team', 'value', 'close_date', 'version'] as const;
export type SpanAspect = (typeof SPAN_ASPECTS)[number];

export interface Span {
  readonly aspect: SpanAspect;
  readonly value: FactValue;
  readonly from: Instant;
  /** Null while it is so. */
  readonly to: Instant | null;
}

export const spansPart: DealPart<{ readonly spans: readonly Span[] }> = { begins: { spans: [] } };
