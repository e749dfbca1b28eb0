import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../time/day.ts';
import { readTaskLine } from './readTaskLine.ts';

/** A Tuesday. */
const TODAY = '2026-11-24';
const read = (line: string, today = TODAY) => readTaskLine(line, today);

describe('a task written in a line', () => {
  it.each([
    ['Ring the surveyor', 'Ring the surveyor', TODAY, null],
    ['Ring the surveyor today', 'Ring the surveyor', TODAY, null],
    ['Ring the surveyor tomorrow 14:00', 'Ring the surveyor', '2026-11-25', '14:00'],
    ['Ring the surveyor 14:00 tomorrow', 'Ring the surveyor', '2026-11-25', '14:00'],
    ['Ring the surveyor at 9:05, by Friday', 'Ring the surveyor', '2026-11-27', '09:05'],
    ['Ring the surveyor on friday at 2pm', 'Ring the surveyor', '2026-11-27', '14:00'],
    ['Ring at 12.30am', 'Ring', TODAY, '00:30'],
    // A weekday is the next one of its name, never today.
    ['Send it Tuesday', 'Send it', '2026-12-01', null],
    ['Send it next monday', 'Send it', '2026-11-30', null],
    ['Chase the deposit in 2 weeks', 'Chase the deposit', '2026-12-08', null],
    ['Chase it in a day', 'Chase it', '2026-11-25', null],
    ['Send the drawings, 3 December', 'Send the drawings', '2026-12-03', null],
    ['Send the drawings 3rd dec 2027', 'Send the drawings', '2027-12-03', null],
    ['Send the drawings December 3, 2027', 'Send the drawings', '2027-12-03', null],
    // A date that has gone by this year is the next one to come.
    ['Ask again 3 March', 'Ask again', '2027-03-03', null],
    ['Ask again 2027-02-28', 'Ask again', '2027-02-28', null],
    ['Call about 14 bays', 'Call about 14 bays', TODAY, null],
    ['Order the glass for May', 'Order the glass for May', TODAY, null],
    ['  Ring   them  ', 'Ring them', TODAY, null],
  ])('%s', (line, title, dueDay, dueTime) => {
    expect(read(line)).toEqual({ ok: true, value: { title, dueDay, dueTime } });
  });

  it('knows the next leap day where this year has none', () => {
    expect(read('Ask again 29 February')).toMatchObject({ ok: false });
    expect(read('Ask again 29 February', '2028-03-01')).toMatchObject({ value: { dueDay: '2032-02-29' } });
  });

  it.each(['Send it 30 February', 'Send it 2026-02-30', 'Send it 31 June 2027', 'Send it 3 December 9999'])(
    'is refused where there is no such day: %s',
    (line) => {
      expect(read(line)).toMatchObject({
        ok: false,
        error: { code: 'no_such_day', text: line.replace('Send it ', '') },
      });
    },
  );

  it('names the day that there is not without what leads to it', () => {
    expect(read('Ring, by 30 February')).toMatchObject({ error: { text: '30 February' } });
  });

  it.each(['', '   ', 'tomorrow', 'by Friday 14:00', ','])('says what is to be done, or is none: “%s”', (line) => {
    expect(read(line)).toEqual({ ok: false, error: { code: 'no_title' } });
  });

  it('takes back off what was put on: a day and a time, in either order', () => {
    const title = fc
      .stringMatching(/^[A-Z][a-z]{1,8} the [a-z]{2,9}$/)
      .filter((text) => !/(day|may|in|an?|march)$| (by|on|at|due|until)$/.test(text));
    const time = fc
      .tuple(fc.nat(23), fc.nat(59))
      .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`);
    fc.assert(
      fc.property(title, fc.nat(3_000), time, fc.boolean(), (words, days, at, dayFirst) => {
        const line = dayFirst ? `${words} in ${days} days ${at}` : `${words} ${at} in ${days} days`;
        expect(read(line)).toEqual({
          ok: true,
          value: { title: words, dueDay: addDays(TODAY, days), dueTime: at },
        });
      }),
    );
  });
});
