import type { FactValue } from '../facts/value.ts';
import { canonicalText } from '../processes/canonicalText.ts';
import type { Instant } from '../time/day.ts';
import { type Deal, SPAN_ASPECTS, type Span, type SpanAspect } from './deal.ts';

/** The dated intervals after a change at `at`: what changed is ended, and begun anew. */
export function reviseSpans(deal: Deal, at: Instant): readonly Span[] {
  const ended = deal.spans.filter(({ to }) => to !== null);
  const present = SPAN_ASPECTS.flatMap((aspect) => {
    const value = aspectValue(deal, aspect);
    const open = deal.spans.find((span) => span.aspect === aspect && span.to === null);
    if (open && canonicalText(open.value) === canonicalText(value)) return [open];
    const fresh: Span = { aspect, value, from: at, to: null };
    return open && open.from < at ? [{ ...open, to: at }, fresh] : [fresh];
  });
  return [...ended, ...present];
}

function aspectValue(deal: Deal, aspect: SpanAspect): FactValue {
  return aspect === 'version' ? deal.version : (deal.values[aspect] ?? null);
}
