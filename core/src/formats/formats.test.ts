import { describe, expect, it } from 'vitest';
import type { StageId } from '../ids.ts';
import { failed, ok } from '../result.ts';
import { CATALOGUE, FIELDS } from '../testing/builders.ts';
import { guessDelimiter } from './delimiter.ts';
import { guessColumns } from './importColumn.ts';
import { readCell } from './readCell.ts';
import { type ImportTerms, readRow } from './readRow.ts';

const people: Record<string, string> = { 'priya nandan': 'p1' };
const lookup: ImportTerms['lookup'] = (type, text) => {
  const found = type === 'person' ? people[text.toLowerCase()] : text;
  return found === undefined ? failed('none') : ok(found);
};
const cell = (id: string, text: string) => {
  const field = CATALOGUE.get(id);
  if (!field) throw new Error(id);
  return readCell(field, text, { currency: 'GBP', lookup, order: null });
};

describe('reading a CSV', () => {
  it('guesses the delimiter from the first record, quotes left aside', () => {
    expect(guessDelimiter('a;b;c\n1,2;3;4')).toBe(';');
    expect(guessDelimiter('"a;b;c;d",e\n')).toBe(',');
    expect(guessDelimiter('"one\nrecord;x"\tb\r\n')).toBe('\t');
    expect(guessDelimiter('alone')).toBe(',');
  });

  it('guesses columns from names, then from contents, nothing twice', () => {
    const guessed = guessColumns(
      ['Ref', 'Company', 'Deal value', 'What', 'Who', 'Customer'],
      [
        ['1', 'A', '2', 'Tomatoes', 'a@b.example', 'B'],
        ['2', 'B', '3', 'herbs', 'c@d.example', 'C'],
      ],
      FIELDS,
    );
    expect(guessed).toEqual([
      { to: 'deal', column: 'external_id' },
      { to: 'field', field: 'customer' },
      { to: 'field', field: 'value' },
      { to: 'field', field: 'crop' },
      { to: 'field', field: 'owner' },
      { to: 'nothing' },
    ]);
  });

  it('reads each type of cell, or says what is wrong', () => {
    expect(cell('value', '£1,250.50')).toEqual({ ok: true, value: { minor: 125_050, currency: 'GBP' } });
    expect(cell('value', 'EUR 40')).toEqual({ ok: true, value: { minor: 4_000, currency: 'EUR' } });
    expect(cell('area', '4 200')).toEqual({ ok: true, value: 4200 });
    expect(cell('survey', '24/12/2026')).toEqual({ ok: true, value: '2026-12-24' });
    expect(cell('paid', 'Yes')).toEqual({ ok: true, value: true });
    expect(cell('group', 'Grower; signatory')).toEqual({ ok: true, value: ['grower', 'signatory'] });
    expect(cell('owner', 'Priya Nandan')).toEqual({ ok: true, value: 'p1' });
    expect(cell('area', '')).toEqual({ ok: true, value: null });
    for (const [id, text, problem] of [
      ['survey', '31/02/2026', /not a date that exists/],
      ['area', 'big', /not a number/],
      ['crop', 'Mango', /not one of: Tomatoes, Herbs/],
      ['owner', 'Nobody', /no person/],
      ['value', '1.005', /2 decimal places/],
      ['value', '-5', /at least 0/],
    ] as const) {
      expect(cell(id, text)).toMatchObject({ ok: false, error: expect.stringMatching(problem) });
    }
  });

  it('reads a row with all its problems at their cells', () => {
    const terms: ImportTerms = {
      columns: [
        { to: 'deal', column: 'name' },
        { to: 'deal', column: 'stage' },
        { to: 'field', field: 'area' },
        { to: 'deal', column: 'created' },
        { to: 'deal', column: 'entered_stage' },
      ],
      catalogue: CATALOGUE,
      stages: [{ id: 's' as StageId, name: 'Survey' }],
      currency: 'GBP',
      orders: [],
      today: '2026-11-24',
      lookup,
    };
    expect(readRow(['North block', 'survey', '300', '2026-10-01', '2026-10-05'], terms)).toMatchObject({
      ok: true,
      value: { name: 'North block', stage: 's', values: { area: 300 } },
    });
    expect(readRow(['x', 'Elsewhere', 'big', '2026-12-01', '', 'more'], terms)).toMatchObject({
      ok: false,
      error: [{ column: null }, { column: 1 }, { column: 2 }, { column: 3 }],
    });
    expect(readRow(['x', '', '', '2026-10-05', '2026-10-01'], terms)).toMatchObject({
      ok: false,
      error: [{ column: 4 }],
    });
  });
});
