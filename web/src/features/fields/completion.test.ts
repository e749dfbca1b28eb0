import type { Field } from '@ladder/core';
import { describe, expect, it } from 'vitest';
import { begunAt, completed, completions } from './completion.ts';

const number = (name: string): Field => ({ id: name, name, holder: 'deal', type: 'number' });
const FIELDS = [number('Glazed area'), number('Area of beds'), number('2nd fix'), number('Value')];
const offered = (formula: string, cursor = formula.length) =>
  completions(begunAt(formula, cursor), FIELDS).map(({ name }) => name);

describe('names completed in a formula', () => {
  it('are those that hold what is begun, those that begin so first', () => {
    expect(offered('Value ÷ are')).toEqual(['Area of beds', 'Glazed area']);
    expect(offered('(2 + GLA')).toEqual(['Glazed area']);
    expect(offered('Value × ')).toHaveLength(4);
    expect(offered('Value ÷ "2n')).toEqual(['2nd fix']);
  });

  it('are none for a number, a whole name, or what nothing is called', () => {
    expect(offered('Value × 12')).toEqual([]);
    expect(offered('Value')).toEqual([]);
    expect(offered('xyz')).toEqual([]);
  });

  it('take the place of what was begun, in quotes where they need them', () => {
    expect(completed('Value ÷ are + 1', 11, FIELDS[1] as Field)).toEqual({
      text: 'Value ÷ Area of beds + 1',
      cursor: 21,
    });
    expect(completed('Value ÷ "2n', 11, FIELDS[2] as Field)).toEqual({ text: 'Value ÷ "2nd fix" ', cursor: 18 });
  });
});
