interface DayProgressProps {
  readonly done: number;
  /** What is left of today: held, late and due. */
  readonly left: number;
}

const MOST_MARKS = 18;

/** How far the day is. */
export function DayProgress({ done, left }: DayProgressProps) {
  const all = done + left;
  if (all === 0) return null;
  const marks = Math.min(all, MOST_MARKS);
  const filled = Math.round((done / all) * marks);
  return (
    <div className="day-progress">
      <div aria-hidden>
        {Array.from({ length: marks }, (_, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: marks are nothing but their number
          <i key={place} className={place < filled ? 'done' : ''} />
        ))}
      </div>
      {done} of {all} done
    </div>
  );
}
