import { describe, expect, it } from 'vitest';
import type { StageId } from '../ids.ts';
import { countedMedian } from './countedMedian.ts';
import { stageMovement } from './stageMovement.ts';
import { wilson } from './wilson.ts';

describe('figures of movement', () => {
  /* R. G. Newcombe, "Two-sided confidence intervals for the single proportion", Statistics in Medicine 17 (1998), table I,
     method 3 (score, without continuity correction): 81/263, 15/148, 0/20, 1/29. */
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('the interval of %i in %i', (count, of, low, high) => {
    const share = wilson(count, of);
    expect(share?.low).toBeCloseTo(low, 4);
    expect(share?.high).toBeCloseTo(high, 4);
  });

  it('has no share of nothing, and the median of counted days', () => {
    expect(wilson(0, 0)).toBeNull();
    expect(countedMedian([])).toBeNull();
    expect(
      countedMedian([
        { days: 9, count: 1 },
        { days: 2, count: 2 },
        { days: 4, count: 1 },
      ]),
    ).toBe(3);
    expect(
      countedMedian([
        { days: 5, count: 3 },
        { days: 8, count: 2 },
      ]),
    ).toBe(5);
  });

  it('a stage: what was entered is moved on, lost, returned or still there', () => {
    const counts = {
      stage: 'a' as StageId,
      entered: 10,
      movedOn: 6,
      lost: 2,
      returned: 1,
      stays: [{ days: 3, count: 9 }],
      openDeals: 1,
      openPastTarget: 0,
    };
    expect(stageMovement(counts)).toMatchObject({ staysEnded: 9, medianDays: 3, movedOnShare: { count: 6, of: 9 } });
  });
});
