import type { CSSProperties } from 'react';

const TONES = 7;

/** The tone of a stage by its place among `count`: the first is lightest, the last deepest. */
export function toneOf(place: number, count: number): { style: CSSProperties; className: string } {
  const tone = place < 0 ? 1 : count <= 1 ? TONES : 1 + Math.round((place / (count - 1)) * (TONES - 1));
  return { style: { '--tone': `var(--tone-${tone})` } as CSSProperties, className: tone >= TONES ? 'deep' : '' };
}
