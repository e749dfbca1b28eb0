import { canonicalText } from '../canonicalText.ts';
import type { FactValue } from '../facts/value.ts';
import type { VersionId } from '../ids.ts';
import type { Instant } from '../time/day.ts';
import type { Deal } from './deal.ts';
import { SPAN_ASPECTS, type Span, type SpanAspect } from './parts/spans.ts';

/** The dated intervals after a change at `at`: what changed is ended, and begun anew; what had just begun is replaced. */
export function reviseSpans(deal: Deal, at: Instant): readonly Span[] {
  const ended = deal.spans.filter(({ to }) => to !== null);
  const present = SPAN_ASPECTS.flatMap((aspect) => {
    const value = aspectValue(deal, aspect);
    const open = deal.spans.find((span) => span.aspect === aspect && span.to === null);
    if (open && canonicalText(open.value) === canonicalText(value)) return [open];
    const fresh: Span = { aspect, value, from: at, to: null };
    return open && open.from < at ? [{ ...open, to: at }, fresh] : [{ ...fresh, from: open?.from ?? at }];
  });
  return [...ended, ...present];
}

function aspectValue(deal: Deal, aspect: SpanAspect): FactValue {
  return aspect === 'version' ? deal.version : (deal.values[aspect] ?? null);
}

/** The versions that the deal has followed, one after the other, each with the instant from which on it did. */
export const versionsFollowed = ({ spans }: Deal): readonly { readonly version: VersionId; readonly from: Instant }[] =>
  spans
    .filter(({ aspect }) => aspect === 'version')
    .map(({ value, from }) => ({ version: String(value) as VersionId, from }))
    .sort((a, b) => a.from - b.from);
