/** In which order a date with strokes is written: 24/12/2026 or 12/24/2026. */
export const DATE_ORDERS = ['day_first', 'month_first'] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

/** What all cells of a column say together: no such date, one order, dates that fit both, or some of each order. */
export const DATE_READINGS = ['none', 'day_first', 'month_first', 'either', 'mixed'] as const;
export type DateReading = (typeof DATE_READINGS)[number];

const PATTERN = /^(\d{1,2})([./])(\d{1,2})\2(\d{4})$/;
const LONGEST = 10;

/** A date of digits with points or strokes, in the order in which its parts stand; null for anything else. */
export function dateParts(cell: string): { mark: '.' | '/'; first: string; second: string; year: string } | null {
  const match = cell.length > LONGEST ? null : PATTERN.exec(cell);
  if (!match) return null;
  const [, first = '', mark, second = '', year = ''] = match;
  return { mark: mark === '.' ? '.' : '/', first, second, year };
}

/** Which order a single cell can have; null where it says nothing. Points stand day first (common practice). */
function onlyOrder(cell: string): DateOrder | 'both' | null {
  const parts = dateParts(cell);
  if (!parts) return null;
  const [first, second] = [Number(parts.first), Number(parts.second)];
  if (parts.mark === '.') return 'day_first';
  if (first > 12) return 'day_first';
  if (second > 12) return 'month_first';
  return first === second ? null : 'both';
}

/** Reads the cells of a file, row by row, for the order in which each column writes its dates. */
export class DateTally {
  private readonly seen: { day_first: boolean; month_first: boolean; both: boolean }[] = [];

  /** Takes one row's cells into account. */
  add(cells: readonly string[]): void {
    for (let column = 0; column < cells.length; column++) {
      const order = onlyOrder((cells[column] as string).trim());
      if (order === null) continue;
      this.seen[column] ??= { day_first: false, month_first: false, both: false };
      (this.seen[column] as Record<string, boolean>)[order] = true;
    }
  }

  /** What each of the first columns says. */
  readings(columns: number): readonly DateReading[] {
    return Array.from({ length: columns }, (_none, column) => {
      const seen = this.seen[column];
      if (!seen) return 'none';
      if (seen.day_first && seen.month_first) return 'mixed';
      if (seen.day_first) return 'day_first';
      if (seen.month_first) return 'month_first';
      return 'either';
    });
  }
}

/** The order by which a column is read: its own, or the one that was chosen where its cells fit both. */
export function orderOf(reading: DateReading, chosen: DateOrder | undefined): DateOrder | null {
  if (reading === 'day_first' || reading === 'month_first') return reading;
  return chosen ?? null;
}
