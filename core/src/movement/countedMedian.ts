/** How many times a number of days was seen. */
export interface DayCountRow {
  readonly days: number;
  readonly count: number;
}

/** The middle value of counted days; of an even number of them the mean of the middle two; null where there are none. */
export function countedMedian(rows: readonly DayCountRow[]): number | null {
  const sorted = [...rows].sort((a, b) => a.days - b.days);
  const total = sorted.reduce((sum, { count }) => sum + count, 0);
  if (total === 0) return null;
  const low = valueAt(sorted, Math.floor((total - 1) / 2));
  return (low + valueAt(sorted, Math.floor(total / 2))) / 2;
}

function valueAt(sorted: readonly DayCountRow[], place: number): number {
  let passed = 0;
  for (const { days, count } of sorted) {
    passed += count;
    if (place < passed) return days;
  }
  return sorted.at(-1)?.days ?? 0;
}
