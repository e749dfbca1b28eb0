import { failed, ok, type Result } from '../result.ts';
import { addDays, type Day, dayNumber, isUsualDay, parseDay } from '../time/day.ts';

/** A task as somebody wrote it, in one line. */
export interface TaskLine {
  readonly title: string;
  /** Today where the line names no day. */
  readonly dueDay: Day;
  readonly dueTime: string | null;
}

export type TaskLineProblem =
  | { readonly code: 'no_title' }
  /** The line ends with what would be a day, but there is none such. */
  | { readonly code: 'no_such_day'; readonly text: string };

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'] as const;
const WEEKDAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'] as const;

const BEFORE = String.raw`(?:^|[\s,;]+)(?:by|on|at|due|until)?\s*`;
const TIME = new RegExp(
  String.raw`${BEFORE}(?:([01]?\d|2[0-3])[:.]([0-5]\d)|(1[0-2]|0?[1-9])(?:[:.]([0-5]\d))?\s?([ap])m)$`,
  'i',
);
const MONTH = String.raw`(jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec)[a-z]*\.?`;

/** What a line may end with to name a day, and which day that is: null where there is none such. */
const DAYS: readonly { readonly form: RegExp; readonly dayOf: (match: RegExpExecArray, today: Day) => Day | null }[] = [
  { form: ending('today'), dayOf: (_match, today) => today },
  { form: ending('tomorrow'), dayOf: (_match, today) => addDays(today, 1) },
  {
    form: ending(String.raw`in\s+(\d{1,4}|an?)\s+(day|week)s?`),
    dayOf: ([, many = '1', unit = 'day'], today) =>
      addDays(today, (/^\d/.test(many) ? Number(many) : 1) * (unit.toLowerCase() === 'week' ? 7 : 1)),
  },
  {
    form: ending(String.raw`(?:next\s+)?(${WEEKDAYS.join('|')})`),
    dayOf: ([, name = ''], today) => nextWeekday(name, today),
  },
  { form: ending(String.raw`(\d{4}-\d{1,2}-\d{1,2})`), dayOf: ([, day = '']) => realDay(day) },
  {
    form: ending(String.raw`(\d{1,2})(?:st|nd|rd|th)?\s+${MONTH}(?:\s+(\d{4}))?`),
    dayOf: ([, day = '', month = '', year], today) => dayOfMonth(day, month, year, today),
  },
  {
    form: ending(String.raw`${MONTH}\s+(\d{1,2})(?:st|nd|rd|th)?(?:,?\s+(\d{4}))?`),
    dayOf: ([, month = '', day = '', year], today) => dayOfMonth(day, month, year, today),
  },
];

function ending(form: string): RegExp {
  return new RegExp(`${BEFORE}${form}$`, 'i');
}

/**
 * Reads a task from one line: what is to be done, then, if it is named, the day and the time, in either order: "Ring the surveyor
 * tomorrow 14:00", "Send the drawings 3 December", "Chase the deposit in 2 weeks". Days are counted from `today`; a weekday is
 * the next one of its name, a date without a year the next one to come. Errors: nothing to do is named; a day that does not exist.
 */
export function readTaskLine(line: string, today: Day): Result<TaskLine, TaskLineProblem> {
  const whole = line.trim().replace(/\s+/g, ' ');
  const first = takeTime(whole);
  const day = takeDay(first.rest, today);
  if (day.text !== null && day.day === null) return failed({ code: 'no_such_day', text: day.text });
  // The time may as well stand before the day.
  const second = first.time === null ? takeTime(day.rest) : { rest: day.rest, time: first.time };
  const title = second.rest.replace(/[\s,;:]+$/, '');
  if (title === '') return failed({ code: 'no_title' });
  return ok({ title, dueDay: day.day ?? today, dueTime: second.time });
}

function takeTime(text: string): { readonly rest: string; readonly time: string | null } {
  const match = TIME.exec(text);
  if (!match) return { rest: text, time: null };
  const [, hour24, minute24, hour12, minute12 = '00', half] = match;
  const hour = hour24 === undefined ? (Number(hour12) % 12) + (half?.toLowerCase() === 'p' ? 12 : 0) : Number(hour24);
  return { rest: text.slice(0, match.index), time: `${String(hour).padStart(2, '0')}:${minute24 ?? minute12}` };
}

interface DayTaken {
  readonly rest: string;
  readonly day: Day | null;
  /** What named the day, where anything did. */
  readonly text: string | null;
}

function takeDay(text: string, today: Day): DayTaken {
  for (const { form, dayOf } of DAYS) {
    const match = form.exec(text);
    if (match) return { rest: text.slice(0, match.index), day: dayOf(match, today), text: withoutBefore(match[0]) };
  }
  return { rest: text, day: null, text: null };
}

/** What names the day, without what leads to it. */
const withoutBefore = (text: string): string => text.replace(/^[\s,;]*(?:(?:by|on|at|due|until)\s+)?/i, '');

/** The next day of that name, never today. */
function nextWeekday(name: string, today: Day): Day {
  const wanted = WEEKDAYS.indexOf(name.toLowerCase() as (typeof WEEKDAYS)[number]);
  const ahead = (wanted - weekdayOf(today) + 7) % 7;
  return addDays(today, ahead === 0 ? 7 : ahead);
}

/** 0 is a Monday: 1970-01-01 was a Thursday. */
const weekdayOf = (day: Day): number => (((dayNumber(day) + 3) % 7) + 7) % 7;

function dayOfMonth(day: string, month: string, year: string | undefined, today: Day): Day | null {
  const place = MONTHS.findIndex((name) => month.toLowerCase().startsWith(name)) + 1;
  const inYear = (of: number): Day | null => realDay(`${of}-${place}-${day}`);
  if (year !== undefined) return inYear(Number(year));
  const thisYear = Number(today.slice(0, 4));
  const present = inYear(thisYear);
  if (present !== null && present >= today) return present;
  return inYear(thisYear + 1) ?? (present === null ? null : nextLeap(place, day, thisYear));
}

/** The 29th of February that comes next, where this year's has gone by. */
function nextLeap(month: number, day: string, after: number): Day | null {
  for (let year = after + 1; year <= after + 8; year++) {
    const found = realDay(`${year}-${month}-${day}`);
    if (found !== null) return found;
  }
  return null;
}

function realDay(text: string): Day | null {
  const [year = '', month = '', day = ''] = text.split('-');
  const written = `${year.padStart(4, '0')}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return parseDay(written) !== null && isUsualDay(written) ? written : null;
}
