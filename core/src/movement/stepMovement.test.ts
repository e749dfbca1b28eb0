import { expect, it } from 'vitest';
import { stepMovement } from './stepMovement.ts';

const row = (step: string, result: string, days: number, count: number) => ({
  step,
  name: `Step ${step}`,
  result,
  resultName: `Result ${result}`,
  days,
  count,
});

it('tells the median of a step over all its results, and how often each was', () => {
  const [first, second] = stepMovement([
    row('a', 'x', 2, 3),
    row('a', 'y', 9, 4),
    row('a', 'x', 4, 1),
    row('b', 'x', 0, 1),
  ]);
  expect(first).toEqual({
    step: 'a',
    name: 'Step a',
    runs: 8,
    // 2, 2, 2, 4, 9, 9, 9, 9
    medianDays: 6.5,
    results: [
      { result: 'x', name: 'Result x', count: 4 },
      { result: 'y', name: 'Result y', count: 4 },
    ],
  });
  expect(second).toMatchObject({ step: 'b', runs: 1, medianDays: 0 });
  expect(stepMovement([])).toEqual([]);
});
