import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { describeHolidayProblem, readHolidays } from './readHolidays.ts';

const file = (...lines: readonly string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//test//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
const event = (...lines: readonly string[]): string => ['BEGIN:VEVENT', ...lines, 'END:VEVENT'].join('\r\n');
const days = (text: string, lastYear: number | null = null): readonly string[] => {
  const read = readHolidays(text, lastYear);
  if (!read.ok) throw new Error(read.error.map(describeHolidayProblem).join(' '));
  return read.value.map(({ day }) => day);
};
const codes = (text: string, lastYear: number | null = null) => {
  const read = readHolidays(text, lastYear);
  return read.ok ? [] : read.error.map(({ line, code }) => [line, code]);
};
/** The days of a rule that begins on the second of September 1997, a Tuesday, as RFC 5545's examples do. */
const rule = (start: string, rrule: string, lastYear: number | null = null): readonly string[] =>
  days(file(event(`DTSTART;TZID=America/New_York:${start}T090000`, `RRULE:${rrule}`, 'SUMMARY:Example')), lastYear);

describe('RFC 5545, 3.8.5.3, its own examples', () => {
  it.each([
    ['every day, ten times', '19970902', 'FREQ=DAILY;COUNT=10', ['1997-09-02', '1997-09-11'], 10],
    ['weekly until a day', '19970902', 'FREQ=WEEKLY;UNTIL=19971224T000000Z', ['1997-09-02', '1997-12-23'], 17],
    ['on two days a week', '19970902', 'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH', ['1997-09-02', '1997-10-02'], 10],
    ['on the first Friday', '19970905', 'FREQ=MONTHLY;COUNT=10;BYDAY=1FR', ['1997-09-05', '1998-06-05'], 10],
    ['on the last Monday but one', '19970922', 'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', ['1997-09-22', '1998-02-16'], 6],
    [
      'three days before the end of the month',
      '19970928',
      'FREQ=MONTHLY;COUNT=6;BYMONTHDAY=-3',
      ['1997-09-28', '1998-02-26'],
      6,
    ],
    ['in June and July', '19970610', 'FREQ=YEARLY;COUNT=10;BYMONTH=6,7', ['1997-06-10', '2001-07-10'], 10],
    [
      'every third year on days of the year',
      '19970101',
      'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200',
      ['1997-01-01', '2006-01-01'],
      10,
    ],
    [
      'the third working day of the month',
      '19970904',
      'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3',
      ['1997-09-04', '1997-11-06'],
      3,
    ],
    [
      'every other year in January, Sundays',
      '19970105',
      'FREQ=YEARLY;COUNT=3;BYMONTH=1;BYDAY=SU',
      ['1997-01-05', '1997-01-19'],
      3,
    ],
  ])('%s', (_what, start, rrule, [first, last], count) => {
    const found = rule(start, rrule);
    expect([found.at(0), found.at(-1), found.length]).toEqual([first, last, count]);
  });

  it.each([
    [
      'the twentieth Monday of the year',
      '19970519',
      'FREQ=YEARLY;BYDAY=20MO',
      ['1997-05-19', '1998-05-18', '1999-05-17'],
    ],
    ['Monday of week 20', '19970512', 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', ['1997-05-12', '1998-05-11', '1999-05-17']],
    [
      'Friday the 13th',
      '19980213',
      'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
      ['1998-02-13', '1998-03-13', '1998-11-13', '1999-08-13'],
    ],
    [
      'an election day',
      '19961105',
      'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8',
      ['1996-11-05'],
    ],
  ])('%s, which has no end, until a year is over', (_what, start, rrule, expected) => {
    expect(rule(start, rrule, 1999)).toEqual(expected);
    expect(codes(file(event(`DTSTART:${start}T090000`, `RRULE:${rrule}`)))).toEqual([[6, 'endless']]);
  });
});

describe('a file of holidays', () => {
  it('has folded lines, escaped names, quoted parameters, whole days and several of them', () => {
    const text = file(
      event(
        'DTSTART;VALUE=DATE;X-NOTE="a:b;c":20261225',
        'DTEND;VALUE=DATE:20261227',
        'SUMMARY:Christmas\\, and',
        '  the day after',
        'BEGIN:VALARM',
        'SUMMARY:Not this',
        'DTSTART:20200101',
        'END:VALARM',
      ),
      event('DTSTART;VALUE=DATE:20270101', 'SUMMARY:New Year'),
      event('DTSTART;VALUE=DATE:20270102', 'STATUS:CANCELLED'),
      event('DTSTART:20270330T080000', 'DTEND:20270331T120000', 'SUMMARY:Stocktaking'),
    );
    const read = readHolidays(text.replace('\r\n  the', '\r\n  the'), null);
    expect(read).toEqual({
      ok: true,
      value: [
        { day: '2026-12-25', name: 'Christmas, and the day after' },
        { day: '2026-12-26', name: 'Christmas, and the day after' },
        { day: '2027-01-01', name: 'New Year' },
        { day: '2027-03-30', name: 'Stocktaking' },
        { day: '2027-03-31', name: 'Stocktaking' },
      ],
    });
  });

  it('leaves out what is excepted or told anew, and takes further dates', () => {
    const text = file(
      event(
        'UID:1',
        'DTSTART;VALUE=DATE:20260504',
        'RRULE:FREQ=YEARLY;COUNT=4',
        'EXDATE;VALUE=DATE:20270504',
        'RDATE;VALUE=DATE:20300101,20310101',
      ),
      event('UID:1', 'RECURRENCE-ID;VALUE=DATE:20280504', 'DTSTART;VALUE=DATE:20280508'),
    );
    expect(days(text)).toEqual(['2026-05-04', '2028-05-08', '2029-05-04', '2030-01-01', '2031-01-01']);
  });

  it('that is wrong says in which line, all that is wrong at once', () => {
    expect(codes('')).toEqual([[1, 'not_a_calendar']]);
    expect(codes('<html>')).toEqual([[1, 'not_a_calendar']]);
    expect(codes('BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART:20260101')).toEqual([[3, 'no_end']]);
    expect(
      codes(
        file(
          event('SUMMARY:No day'),
          event('DTSTART:20260230', 'SUMMARY:No such day'),
          event('DTSTART:20260101', 'RRULE:FREQ=HOURLY;COUNT=5'),
          event('DTSTART:20260101', 'RRULE:EVERY=DAY'),
          event('DTSTART:20260101', 'DURATION:P900D'),
        ),
      ),
    ).toEqual([
      [5, 'no_day'],
      [8, 'no_day'],
      [13, 'within_a_day'],
      [17, 'bad_rule'],
      [20, 'too_long'],
    ]);
    expect(codes(file(event('DTSTART:20260101', 'RRULE:FREQ=DAILY;COUNT=999999999')))).toEqual([[6, 'too_many']]);
    expect(codes('B'.repeat(2_000_001))).toEqual([[1, 'too_large']]);
    expect(days(file(event('DTSTART:20260101', 'RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30;COUNT=3')))).toEqual([
      '2026-01-01',
    ]);
  });

  /* RFC 5545, 3.3.10: “Recurrence rules may generate recurrence instances with an invalid date … such recurrence instances MUST be ignored”. */
  it('of 29 February comes in leap years alone', () => {
    expect(days(file(event('DTSTART:20280229', 'RRULE:FREQ=YEARLY;COUNT=2')))).toEqual(['2028-02-29', '2032-02-29']);
  });

  /* ical.js 2.2.1, a reference library; it tells 29 February of other years as 1 March, against RFC 5545, 3.3.10. */
  it('has the days that another reader of such files finds', () => {
    const parts = fc.record({
      freq: fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'),
      interval: fc.integer({ min: 1, max: 5 }),
      count: fc.integer({ min: 1, max: 12 }),
      start: fc.integer({ min: 0, max: 3_000 }),
    });
    fc.assert(
      fc.property(parts, ({ freq, interval, count, start }) => {
        const day = new Date(Date.UTC(2026, 0, 1 + start)).toISOString().slice(0, 10).replaceAll('-', '');
        fc.pre(!(freq === 'YEARLY' && day.endsWith('0229')));
        const text = file(event(`DTSTART;VALUE=DATE:${day}`, `RRULE:FREQ=${freq};INTERVAL=${interval};COUNT=${count}`));
        const vevent = new ICAL.Component(ICAL.parse(text)).getFirstSubcomponent('vevent');
        if (!vevent) throw new Error('No event');
        const iterator = new ICAL.Event(vevent).iterator();
        const expected: string[] = [];
        for (let next = iterator.next(); next; next = iterator.next()) expected.push(next.toString().slice(0, 10));
        expect(days(text)).toEqual(expected);
      }),
      { numRuns: 200 },
    );
  });
});
