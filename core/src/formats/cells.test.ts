import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Field } from '../facts/field.ts';
import type { StageId } from '../ids.ts';
import { amountToMinor, minorToAmount } from '../money/money.ts';
import { ok } from '../result.ts';
import { CATALOGUE, FIELDS } from '../testing/builders.ts';
import { dayFromNumber } from '../time/day.ts';
import { DateTally, orderOf } from './dateOrder.ts';
import { type ColumnTarget, type DEAL_COLUMNS, guessColumns } from './importColumn.ts';
import { readCell, readDate } from './readCell.ts';
import { type ImportTerms, readRow } from './readRow.ts';

const lookup: ImportTerms['lookup'] = (_type, text) => ok(text);
const cell = (id: string, text: string, currency = 'GBP') => {
  const field = CATALOGUE.get(id);
  if (!field) throw new Error(id);
  return readCell(field, text, { currency, lookup, order: null });
};
const value = (id: string, text: string, currency?: string) => {
  const read = cell(id, text, currency);
  return read.ok ? read.value : read.error;
};

describe('amounts', () => {
  it('of any size and currency are read back as they are written, grouped or not, coded or not', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 10 ** 12 }),
        fc.constantFrom('GBP', 'JPY', 'BHD'),
        fc.boolean(),
        fc.constantFrom('before', 'after', 'none'),
        (minor, currency, isGrouped, code) => {
          const plain = minorToAmount(minor, currency);
          const amount = isGrouped ? plain.replace(/^\d+/, (whole) => Number(whole).toLocaleString('en-GB')) : plain;
          const text = { before: `${currency} ${amount}`, after: `${amount} ${currency}`, none: amount }[code];
          expect(value('value', text, currency)).toEqual({ minor, currency });
        },
      ),
    );
  });

  it.each([
    ['£1,234.50', { minor: 123_450, currency: 'GBP' }],
    ['1 234.50', { minor: 123_450, currency: 'GBP' }],
    ['EUR 12', { minor: 1_200, currency: 'EUR' }],
    ['€1,234.50', { minor: 123_450, currency: 'EUR' }],
    ['1,234.50 €', { minor: 123_450, currency: 'EUR' }],
    ['0', { minor: 0, currency: 'GBP' }],
  ])('%s', (text, expected) => {
    expect(value('value', text)).toEqual(expected);
  });

  /* The decimal comma is ambiguous beside grouping commas, so it is refused rather than guessed. */
  it.each([
    '1.234,50',
    '1,2',
    '12,34.5',
    'twelve',
    '1e3',
    '£',
    'ABC 12',
    '0,125',
    '1.5,000',
    '12 34',
    '1,234 567',
    '€ EUR',
    '¥100.5',
    '$40',
    '€40 USD',
    '--5',
  ])('%s is refused', (text) => {
    expect(cell('value', text).ok).toBe(false);
  });

  it.each(['-£3', '£-3', '-3.00', 'GBP -3'])('%s is below nothing', (text) => {
    expect(value('cost', text)).toEqual({ minor: -300, currency: 'GBP' });
  });

  it('with a sign that several currencies share are taken where it is that of the process', () => {
    expect(value('value', '$40', 'AUD')).toEqual({ minor: 4_000, currency: 'AUD' });
    expect(value('value', '¥100', 'JPY')).toEqual({ minor: 100, currency: 'JPY' });
    expect(value('value', '¥100.5', 'JPY')).toBe('JPY has 0 decimal places.');
  });

  it('and numbers of any length are refused at once', () => {
    const long = `1${' '.repeat(400_000)}1`;
    expect([cell('value', long).ok, cell('area', long).ok]).toEqual([false, false]);
  });

  it('never gain or lose a penny on the way through minor units', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999_999 }), (minor) => {
        expect(amountToMinor((minor / 100).toFixed(2), 'GBP')).toEqual({ ok: true, value: minor });
      }),
    );
  });
});

describe('dates', () => {
  it('are read as ISO 8601 writes them and day first, with points or strokes, for every day of two centuries', () => {
    fc.assert(
      fc.property(fc.integer({ min: -25_000, max: 48_000 }), fc.constantFrom('.', '/'), (number, mark) => {
        const day = dayFromNumber(number);
        const [year, month, date] = day.split('-');
        for (const text of [
          day,
          `${date}${mark}${month}${mark}${year}`,
          `${Number(date)}${mark}${Number(month)}${mark}${year}`,
        ])
          expect(readDate(text, 'day_first')).toEqual({ ok: true, value: day });
      }),
    );
  });

  it.each(['2026-02-29', '31.04.2026', '12.24.2026', '24.12.26', '2026/12/24', 'tomorrow', '24 Dec 2026'])(
    '%s is refused',
    (text) => {
      expect(readDate(text, null).ok).toBe(false);
    },
  );
});

describe('the order of a column’s dates', () => {
  const reading = (...cells: string[]) => {
    const tally = new DateTally();
    for (const text of cells) tally.add([text]);
    return tally.readings(1)[0];
  };

  it('is told by all its cells together', () => {
    expect(reading('03/04/2026', '24/12/2026')).toBe('day_first');
    expect(reading('03/04/2026', '12/24/2026')).toBe('month_first');
    expect(reading('03/04/2026', ' 05/06/2026 ')).toBe('either');
    expect(reading('24/12/2026', '12/24/2026')).toBe('mixed');
    expect(reading('24.12.2026', '12/24/2026')).toBe('mixed');
    expect(reading('2026-12-24', 'soon', '05/05/2026')).toBe('none');
  });

  it('decides how each is read; what fits both is asked, not guessed', () => {
    expect(readDate('03/04/2026', 'day_first')).toEqual({ ok: true, value: '2026-04-03' });
    expect(readDate('03/04/2026', 'month_first')).toEqual({ ok: true, value: '2026-03-04' });
    expect(readDate('12/24/2026', 'month_first')).toEqual({ ok: true, value: '2026-12-24' });
    expect(readDate('03/04/2026', null)).toMatchObject({
      ok: false,
      error: expect.stringMatching(/day first or month first/),
    });
    expect(readDate('03.04.2026', null)).toEqual({ ok: true, value: '2026-04-03' });
    expect(orderOf('either', undefined)).toBeNull();
    expect(orderOf('either', 'month_first')).toBe('month_first');
    expect(orderOf('day_first', 'month_first')).toBe('day_first');
  });

  it('of another age has to be one that its field allows', () => {
    const usual: Field = { id: 'survey', holder: 'deal', type: 'date', name: 'Survey' };
    const old: Field = { ...usual, firstDay: '1700-01-01', lastDay: '1899-12-31' };
    const read = (field: Field, text: string) => readCell(field, text, { currency: 'GBP', lookup, order: null });
    expect(read(usual, '0001-01-01')).toEqual({ ok: false, error: 'This must lie between 1900-01-01 and 2200-12-31.' });
    expect(read(usual, '31/12/9999').ok).toBe(false);
    expect(read(usual, '2200-12-31').ok).toBe(true);
    expect(read(old, '3.5.1851')).toEqual({ ok: true, value: '1851-05-03' });
    expect(read(old, '1900-01-01')).toEqual({ ok: false, error: 'This must lie between 1700-01-01 and 1899-12-31.' });
  });
});

describe('other cells', () => {
  it.each([
    ['paid', 'YES', true],
    ['paid', 'n', false],
    ['paid', 'maybe', '“maybe” is neither yes nor no.'],
    ['area', '-3', -3],
    ['area', '1,200.5', 1200.5],
    ['area', '1200 m²', '“1200 m²” is not a number. Write it like 1234.5.'],
    ['crop', 'TOMATOES', 'tomatoes'],
    ['crop', 'herbs', 'herbs'],
    ['group', 'Grower|Signatory', ['grower', 'signatory']],
    ['group', 'Grower; Board', '“Board” is not one of: Grower, Signatory.'],
    ['notes', '  kept as written  ', 'kept as written'],
    ['customer', 'x'.repeat(301), 'This may have at most 300 characters.'],
  ])('%s: %s', (id, text, expected) => {
    expect(value(id, text)).toEqual(expected);
  });

  it('an empty one is empty, whatever the field', () => {
    for (const field of FIELDS.filter(({ type }) => type !== 'calculated')) expect(value(field.id, '  ')).toBeNull();
  });
});

describe('a row', () => {
  const terms = (columns: readonly ColumnTarget[]): ImportTerms => ({
    columns,
    catalogue: CATALOGUE,
    stages: [
      { id: 's1' as StageId, name: 'Survey' },
      { id: 's2' as StageId, name: 'Design' },
    ],
    currency: 'GBP',
    orders: [],
    today: '2026-11-24',
    lookup,
  });
  const deal = (column: (typeof DEAL_COLUMNS)[number]): ColumnTarget => ({ to: 'deal', column });
  const read = (columns: readonly ColumnTarget[], cells: readonly string[]) => {
    const row = readRow(cells, terms(columns));
    return row.ok ? row.value : row.error.map(({ column, detail }) => [column, detail]);
  };

  it('shorter than the first is filled up with empty cells', () => {
    expect(read([deal('name'), deal('stage')], ['North'])).toMatchObject({ name: 'North', stage: null });
  });

  it('leaves out what is matched to nothing, whatever stands in it', () => {
    expect(read([deal('name'), { to: 'nothing' }], ['North', 'a\u0000b'])).toMatchObject({ name: 'North', values: {} });
  });

  it('names a stage by its name, whatever the case, or by its id', () => {
    for (const text of ['survey', 'SURVEY', 's1'])
      expect(read([deal('name'), deal('stage')], ['x', text])).toMatchObject({ stage: 's1' });
    expect(read([deal('name'), deal('stage')], ['x', 'Closing'])).toEqual([
      [1, 'There is no stage “Closing”. The stages are: Survey, Design.'],
    ]);
  });

  it('neither began nor was touched after today', () => {
    expect(read([deal('name'), deal('created'), deal('last_activity')], ['x', '2026-11-25', '2026-11-24'])).toEqual([
      [1, '2026-11-25 lies in the future.'],
    ]);
  });

  it('has no cell that cannot be stored, no name or external id that is too long', () => {
    const long = 'y'.repeat(201);
    expect(read([deal('name'), deal('external_id')], [long, 'a\u0000b'])).toEqual([
      [0, 'This may have at most 200 characters.'],
      [1, 'This holds a character that cannot be stored.'],
    ]);
  });

  it('of a field that has left the catalogue says so', () => {
    expect(read([{ to: 'field', field: 'gone' }], ['x'])).toEqual([[0, 'This field is no longer in the catalogue.']]);
  });
});

describe('guessing what a column is', () => {
  const guess = (header: string, cells: readonly string[] = []) =>
    guessColumns(
      [header],
      cells.map((text) => [text]),
      FIELDS,
    )[0];

  it.each([
    ['Deal name', { to: 'deal', column: 'name' }],
    ['STAGE', { to: 'deal', column: 'stage' }],
    ['date_created', { to: 'deal', column: 'created' }],
    ['In stage since', { to: 'deal', column: 'entered_stage' }],
    ['Last contact', { to: 'deal', column: 'last_activity' }],
    ['Company', { to: 'field', field: 'customer' }],
    ['Glazed area', { to: 'field', field: 'area' }],
    ['Expected close', { to: 'field', field: 'close_date' }],
    ['Something else', { to: 'nothing' }],
  ])('%s', (header, expected) => {
    expect(guess(header)).toEqual(expected);
  });

  it('goes by what stands in it where its name says nothing', () => {
    expect(guess('?', ['a@b.example', 'c@d.example'])).toEqual({ to: 'field', field: 'owner' });
    expect(guess('?', ['Herbs', '', 'tomatoes'])).toEqual({ to: 'field', field: 'crop' });
    expect(guess('?', ['2026-01-01', '2026-02-01'])).toEqual({ to: 'nothing' });
    expect(guess('?', ['', ''])).toEqual({ to: 'nothing' });
  });

  it('never gives two columns the same thing', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('Name', 'Deal', 'Stage', 'Value', 'Amount', 'Company', 'Crop', 'x'), {
          maxLength: 10,
        }),
        (headers) => {
          const taken = guessColumns(headers, [], FIELDS).filter(({ to }) => to !== 'nothing');
          expect(new Set(taken.map((target) => JSON.stringify(target))).size).toBe(taken.length);
        },
      ),
    );
  });
});
