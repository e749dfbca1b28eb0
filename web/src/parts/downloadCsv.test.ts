import { expect, it } from 'vitest';
import { csvOf } from './downloadCsv.ts';

/* RFC 4180, section 2: lines end with CRLF; cells with commas, quotes or line breaks are quoted, and quotes doubled. */
it('writes rows as RFC 4180 has them, and no formula', () => {
  expect(
    csvOf([
      ['Step', 'Done'],
      ['Walk, then "look"', 3],
      ['=1+1', null],
    ]),
  ).toBe('Step,Done\r\n"Walk, then ""look""",3\r\n\'=1+1,\r\n');
});
