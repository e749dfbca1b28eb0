import { toneOf } from './tone.ts';

/** A rung's number between the two uprights; its tone deepens with its place. */
export function Notch({ place, count, label }: { place: number; count: number; label?: string }) {
  const { style, className } = toneOf(place, count);
  return (
    <div className="notch">
      <i className={className} style={style}>
        {label ?? place + 1}
      </i>
    </div>
  );
}

/** The same number on its own, in lists. */
export function StageTone({ place, count }: { place: number; count: number }) {
  const { style, className } = toneOf(place, count);
  return (
    <span className={`tone ${className}`} style={style}>
      {place < 0 ? '·' : place + 1}
    </span>
  );
}
