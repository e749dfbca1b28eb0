import { calculate } from '@ladder/core';
import { expect, it } from 'vitest';
import { type FormulaStep, formulaOf } from './formulaSteps.ts';

const step = (operation: FormulaStep['operation'], operand: string, number = ''): FormulaStep => ({
  id: `${operation} ${operand} ${number}`,
  operation,
  operand,
  number,
});

it('works from the first step to the last: value less cost, divided by value, times 100', () => {
  const formula = formulaOf([
    step('add', 'value'),
    step('subtract', 'cost'),
    step('divide', 'value'),
    step('multiply', 'number', ' 100 '),
  ]);
  expect(formula && calculate(formula, { value: 80, cost: 60 }, { currency: 'GBP', rateOf: () => undefined })).toBe(25);
});

it('is none while a step is not filled', () => {
  expect(formulaOf([])).toBeNull();
  expect(formulaOf([step('add', 'value'), step('divide', '')])).toBeNull();
  expect(formulaOf([step('add', 'number', 'ten')])).toBeNull();
  expect(formulaOf([step('add', 'number', '')])).toBeNull();
});
