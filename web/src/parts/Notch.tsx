import { toneOf } from './tone.ts';

/** A rung's number between the two uprights; its tone deepens with its place. */
export function Notch({ place, count, label }: { place: number; count: number; label?: string }) {
  const { background, className } = toneOf(place, count);
  return (
    <div className="notch">
      <i className={className} style={{ background }}>
        {label ?? place + 1}
      </i>
    </div>
  );
}

/** The same number on its own, in lists. */
export function StageTone({ place, count }: { place: number; count: number }) {
  const { background, className } = toneOf(place, count);
  return (
    <span className={`tone ${className}`} style={{ background }}>
      {place < 0 ? '·' : place + 1}
    </span>
  );
}
