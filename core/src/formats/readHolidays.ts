import { RRule } from 'rrule';
import { failed, ok, type Result } from '../result.ts';
import type { Holiday } from '../time/calendar.ts';
import { addDays, type Day, dayFromNumber, dayNumber, daysBetween, parseDay } from '../time/day.ts';

/** What is wrong with a calendar file, and in which of its lines. */
export interface HolidayFileProblem {
  readonly line: number;
  readonly code:
    | 'too_large'
    | 'not_a_calendar'
    | 'no_end'
    | 'no_day'
    | 'bad_rule'
    | 'endless'
    | 'within_a_day'
    | 'too_many'
    | 'too_long';
  /** What the event is called; empty where it is no event's. */
  readonly event: string;
}

const MOST_CHARACTERS = 2_000_000;
export const MOST_HOLIDAYS = 2_000;
const MOST_DAYS_OF_AN_EVENT = 366;

/** One line as it is written, with those that it is folded over (RFC 5545, 3.1). */
interface ContentLine {
  readonly line: number;
  readonly name: string;
  readonly params: ReadonlyMap<string, string>;
  readonly value: string;
}

type Event = readonly ContentLine[];

/**
 * The days of a calendar file's events, in order and each once (RFC 5545): whole days and those of events within a day, over
 * several days, recurring, at further dates, without those that are excepted, moved or cancelled. What recurs without end is
 * taken until the end of `lastYear`; without one it is a problem. Errors: everything that is wrong, by line; then nothing is
 * taken.
 */
export function readHolidays(
  text: string,
  lastYear: number | null,
): Result<readonly Holiday[], readonly HolidayFileProblem[]> {
  const problem = (line: number, code: HolidayFileProblem['code']) => failed([{ line, code, event: '' }]);
  if (text.length > MOST_CHARACTERS) return problem(1, 'too_large');
  const lines = contentLines(text);
  const [first] = lines;
  if (first?.name !== 'BEGIN' || first.value.trim().toUpperCase() !== 'VCALENDAR') return problem(1, 'not_a_calendar');
  const events = eventsOf(lines);
  if (!events) return problem(lines.at(-1)?.line ?? 1, 'no_end');
  const days = new Map<Day, string>();
  const problems: HolidayFileProblem[] = [];
  for (const event of events) {
    if (textOf(event, 'STATUS').toUpperCase() === 'CANCELLED') continue;
    const read = daysOf(event, lastYear, movedOf(event, events));
    if (!read.ok) problems.push({ ...read.error, event: nameOf(event) });
    else for (const day of read.value) if (!days.has(day)) days.set(day, nameOf(event));
    if (days.size > MOST_HOLIDAYS) return problem(event[0]?.line ?? 1, 'too_many');
  }
  if (problems.length > 0) return failed(problems);
  return ok([...days].map(([day, name]) => ({ day, name })).sort((a, b) => (a.day < b.day ? -1 : 1)));
}

function contentLines(text: string): readonly ContentLine[] {
  const lines: { line: number; text: string }[] = [];
  text.split(/\r\n|\n|\r/).forEach((written, place) => {
    const last = lines.at(-1);
    if (/^[ \t]/.test(written) && last) last.text += written.slice(1);
    else if (written !== '') lines.push({ line: place + 1, text: written.replace(/^\uFEFF/, '') });
  });
  return lines.map(({ line, text: whole }) => ({ line, ...partsOf(whole) }));
}

/** `NAME;PARAMETER=value;OTHER="quoted":value` (RFC 5545, 3.1). */
function partsOf(line: string): Omit<ContentLine, 'line'> {
  const [, head = line, value = ''] = /^((?:[^":]|"[^"]*")*):(.*)$/s.exec(line) ?? [];
  const [name = '', ...params] = head.match(/(?:[^";]|"[^"]*")+/g) ?? [];
  const pairs = params.map((param): [string, string] => {
    const [key = '', ...rest] = param.split('=');
    return [key.toUpperCase(), rest.join('=').replaceAll('"', '')];
  });
  return { name: name.toUpperCase(), params: new Map(pairs), value };
}

/** The lines of each event, without those of what stands within it, such as alarms; null where something is not ended. */
function eventsOf(lines: readonly ContentLine[]): readonly Event[] | null {
  const open: string[] = [];
  const events: ContentLine[][] = [];
  for (const line of lines) {
    const what = line.value.trim().toUpperCase();
    if (line.name === 'BEGIN') {
      open.push(what);
      if (what === 'VEVENT') events.push([]);
    } else if (line.name === 'END') {
      if (open.pop() !== what) return null;
    } else if (open.at(-1) === 'VEVENT') events.at(-1)?.push(line);
  }
  return open.length === 0 ? events : null;
}

const lineOf = (event: Event, name: string): ContentLine | undefined => event.find((line) => line.name === name);
const textOf = (event: Event, name: string): string => lineOf(event, name)?.value.trim() ?? '';

const nameOf = (event: Event): string =>
  textOf(event, 'SUMMARY').replace(/\\n/gi, ' ').replace(/\\(.)/g, '$1').slice(0, 200);

/** The days of an event that others of the file tell anew. */
const movedOf = (event: Event, events: readonly Event[]): readonly Day[] => {
  const uid = textOf(event, 'UID');
  if (uid === '' || lineOf(event, 'RECURRENCE-ID')) return [];
  return events
    .filter((other) => textOf(other, 'UID') === uid)
    .flatMap((other) => dayOf(textOf(other, 'RECURRENCE-ID')) ?? []);
};

/** The day of a date, or of a date and time as it is written there: `20261225`, `20261225T090000Z`. */
function dayOf(value: string): Day | null {
  const [, year, month, date] = /^(\d{4})(\d{2})(\d{2})(T\d{6}Z?)?$/.exec(value) ?? [];
  const day = `${year}-${month}-${date}`;
  return parseDay(day) === null ? null : day;
}

type Fault = Omit<HolidayFileProblem, 'event'>;

function daysOf(event: Event, lastYear: number | null, moved: readonly Day[]): Result<readonly Day[], Fault> {
  const start = lineOf(event, 'DTSTART');
  const first = start && dayOf(start.value.trim());
  if (!first) return failed({ line: start?.line ?? event[0]?.line ?? 1, code: 'no_day' });
  const length = lengthOf(event, first);
  if (length > MOST_DAYS_OF_AN_EVENT) return failed({ line: start.line, code: 'too_long' });
  const rule = lineOf(event, 'RRULE');
  const begins = rule ? recurring(rule, first, lastYear) : ok([first]);
  if (!begins.ok) return begins;
  const left = new Set([...moved, ...listed(event, 'EXDATE')]);
  const all = [...begins.value, ...listed(event, 'RDATE')].filter((day) => !left.has(day));
  return ok(all.flatMap((day) => Array.from({ length }, (_, place) => addDays(day, place))));
}

const listed = (event: Event, name: string): readonly Day[] =>
  event
    .filter((line) => line.name === name)
    .flatMap(({ value }) => value.split(',').flatMap((one) => dayOf(one.trim().split('/')[0] ?? '') ?? []));

/** How many days an event takes; its end is not counted, but where it is later on a day (RFC 5545, 3.6.1). */
function lengthOf(event: Event, first: Day): number {
  const end = textOf(event, 'DTEND');
  const last = dayOf(end);
  if (last) return Math.max(1, daysBetween(first, last) + (/T(?!000000)/.test(end) ? 1 : 0));
  const [, weeks, days] = /^P(?:(\d{1,4})W)?(?:(\d{1,4})D)?/.exec(textOf(event, 'DURATION')) ?? [];
  return Math.max(1, Number(weeks ?? 0) * 7 + Number(days ?? 0));
}

const utc = (day: Day): Date => new Date(dayNumber(day) * 86_400_000);

/** The days on which a rule says that an event begins; the first is one of them whatever it says (RFC 5545, 3.8.5.3). */
function recurring({ line, value }: ContentLine, first: Day, lastYear: number | null): Result<readonly Day[], Fault> {
  const rule = value.trim().toUpperCase();
  if (/FREQ=(SECONDLY|MINUTELY|HOURLY)/.test(rule) || /BY(SECOND|MINUTE|HOUR)=/.test(rule))
    return failed({ line, code: 'within_a_day' });
  const untilText = /UNTIL=([^;]*)/.exec(rule)?.[1];
  const until = untilText === undefined ? null : dayOf(untilText);
  if (!/(^|;)FREQ=/.test(rule) || (untilText !== undefined && !until)) return failed({ line, code: 'bad_rule' });
  if (!until && !/COUNT=\d/.test(rule) && lastYear === null) return failed({ line, code: 'endless' });
  const end = [until, lastYear === null ? null : `${String(lastYear).padStart(4, '0')}-12-31`].flatMap(
    (day) => day ?? [],
  );
  const last = end.sort()[0] ?? LAST_RECURRING;
  const days: Day[] = [];
  try {
    const { until: _until, ...options } = RRule.parseString(rule);
    new RRule({ ...options, dtstart: utc(first), until: utc(last) }).all((date) => {
      days.push(dayFromNumber(date.getTime() / 86_400_000));
      return days.length <= MOST_HOLIDAYS;
    });
  } catch {
    return failed({ line, code: 'bad_rule' });
  }
  if (days.length > MOST_HOLIDAYS) return failed({ line, code: 'too_many' });
  return ok(first <= last && !days.includes(first) ? [first, ...days] : days);
}

/** A rule that says how often, but not until when, is not followed further. */
const LAST_RECURRING: Day = '2200-12-31';

/** The problem in words. */
export function describeHolidayProblem({ line, code, event }: HolidayFileProblem): string {
  const where = event === '' ? `Line ${line}` : `Line ${line}, “${event}”`;
  switch (code) {
    case 'too_large':
      return 'The file has more than 2,000,000 characters, which is no calendar of holidays.';
    case 'not_a_calendar':
      return 'This is not an iCalendar file: it does not begin with BEGIN:VCALENDAR.';
    case 'no_end':
      return `${where}: something that was begun is not ended. The file may be cut off.`;
    case 'no_day':
      return `${where}: there is no day on which it begins (DTSTART).`;
    case 'bad_rule':
      return `${where}: how it recurs cannot be read (RRULE).`;
    case 'endless':
      return `${where}: it recurs without end. Say until which year its days are taken.`;
    case 'within_a_day':
      return `${where}: it recurs within a day, as no holiday does.`;
    case 'too_many':
      return `${where}: there are more than ${MOST_HOLIDAYS.toLocaleString('en-GB')} days.`;
    case 'too_long':
      return `${where}: it lasts longer than a year.`;
  }
}
