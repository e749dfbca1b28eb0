import type { Instant } from '../../time/day.ts';
import type { FactPart } from './part.ts';

export interface Waiver {
  readonly requirement: string;
  readonly from: Instant;
  readonly to: Instant;
}

export interface WaiversCarried {
  readonly waivers: readonly Waiver[];
}

/** Permissions to pass named requirements for a time. */
export const waiversPart: FactPart<
  WaiversCarried,
  { readonly waived: ReadonlySet<string> },
  { readonly waived?: readonly string[] }
> = {
  begins: { waivers: [] },
  facts: (deal, _setting, at) => ({ waived: new Set(waivedAt(deal, at)) }),
  keep: (deal, _setting, at) => ({ waived: waivedAt(deal, at) }),
  // Moves of the time before waivers were kept had none.
  recall: ({ waived = [] }) => ({ waived: new Set(waived) }),
};

const waivedAt = ({ waivers }: WaiversCarried, at: Instant): readonly string[] =>
  waivers.filter(({ from, to }) => from <= at && at < to).map(({ requirement }) => requirement);
