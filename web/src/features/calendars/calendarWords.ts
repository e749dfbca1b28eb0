export const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;

/** `Monday to Friday`, `Monday, Wednesday`. */
export function weekWords(days: readonly number[]): string {
  const sorted = [...days].sort();
  const names = sorted.map((day) => WEEKDAYS[day - 1] ?? '');
  const isRun = sorted.every((day, place) => day === (sorted[0] ?? 0) + place);
  return isRun && names.length > 2 ? `${names[0]} to ${names.at(-1)}` : names.join(', ');
}

const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'short', timeZone: 'UTC' });

/** `Thu`. */
export const weekdayOf = (day: string): string => weekday.format(new Date(`${day}T00:00Z`));
