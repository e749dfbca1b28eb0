/** A share with the interval in which it lies with 95% confidence; all from 0 to 1. */
export interface Share {
  readonly of: number;
  readonly count: number;
  readonly share: number;
  readonly low: number;
  readonly high: number;
}

const Z_95 = 1.959963984540054;

/**
 * The share of `count` in `of` with its 95% score interval; null where there are no cases.
 * Source: E. B. Wilson, "Probable inference, the law of succession, and statistical inference", JASA 22 (1927).
 */
export function wilson(count: number, of: number): Share | null {
  if (of === 0) return null;
  const share = count / of;
  const spread = Z_95 ** 2 / of;
  const centre = (share + spread / 2) / (1 + spread);
  const half = (Z_95 * Math.sqrt((share * (1 - share)) / of + spread / (4 * of))) / (1 + spread);
  return { of, count, share, low: Math.max(0, centre - half), high: Math.min(1, centre + half) };
}
