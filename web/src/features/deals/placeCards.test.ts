import type { StageId } from '@ladder/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { DealCard, Lane } from './dealsApi.ts';
import { CARD_WIDTH, type Placed, placeCards, placeOfAge, TARGET_AT } from './placeCards.ts';

const WIDTH = 820;
const RANK = { clear: 0, flagged: 1, held: 2 } as const;

interface Given {
  readonly age: number;
  readonly standing: 'clear' | 'flagged' | 'held';
}

/** A lane of deals, of which the first `sent` come as cards, held ones first as the server sends them. */
function laneOf(deals: readonly Given[], sent = 40, targetDays: number | null = 15): Lane {
  const ordered = [...deals].sort((a, b) => RANK[b.standing] - RANK[a.standing]);
  const cards = ordered
    .slice(0, sent)
    .map(
      ({ age, standing }, place) =>
        ({ id: `d${place}`, name: `Deal ${place}`, age, standing, value: { minor: 100, currency: 'GBP' } }) as DealCard,
    );
  const ages = new Map<string, Lane['ages'][number]>();
  for (const { age, standing } of deals) {
    const key = `${age} ${standing}`;
    const known = ages.get(key) ?? { age, standing, count: 0, minor: 0, past: 0 };
    ages.set(key, { ...known, count: known.count + 1, minor: known.minor + 100 });
  }
  return {
    id: 's' as StageId,
    name: 'Stage',
    chance: 50,
    targetDays,
    count: deals.length,
    minor: 0,
    weightedMinor: 0,
    held: 0,
    pastTarget: 0,
    medianAge: null,
    ages: [...ages.values()],
    cards,
  };
}

const widthOf = (placed: Placed): number => (placed.kind === 'card' ? CARD_WIDTH : 54);
const countIn = (placed: readonly Placed[]): number =>
  placed.reduce((sum, one) => sum + (one.kind === 'card' ? 1 : one.count), 0);

const deals = fc.array(
  fc.record({
    age: fc.integer({ min: 0, max: 60 }),
    standing: fc.constantFrom('clear' as const, 'flagged' as const, 'held' as const),
  }),
  { maxLength: 120 },
);

describe('cards on a lane', () => {
  it('stand at their age, the target always at the same place', () => {
    expect(placeOfAge(15, 15)).toBe(TARGET_AT);
    expect(placeOfAge(0, 15)).toBe(0);
    expect(placeOfAge(500, 15)).toBe(1);
    const [card] = placeCards(laneOf([{ age: 5, standing: 'clear' }]), WIDTH);
    expect(card?.left).toBeCloseTo((5 / 15) * TARGET_AT * WIDTH + 3);
  });

  it('every deal is there once, as a card or in a stack, whatever the crowd', () => {
    fc.assert(
      fc.property(deals, fc.integer({ min: 300, max: 1600 }), (given, width) => {
        expect(countIn(placeCards(laneOf(given), width))).toBe(given.length);
      }),
      { numRuns: 300 },
    );
  });

  it('cards never overlap, and nothing leaves the lane', () => {
    fc.assert(
      fc.property(deals, fc.integer({ min: 300, max: 1600 }), (given, width) => {
        const placed = placeCards(laneOf(given), width);
        for (const one of placed) expect(one.left >= 0 && one.left + widthOf(one) <= width).toBe(true);
        const cards = placed.filter(({ kind }) => kind === 'card');
        for (const [place, a] of cards.entries()) {
          for (const b of cards.slice(place + 1))
            expect(a.row !== b.row || Math.abs(a.left - b.left) >= CARD_WIDTH).toBe(true);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('a held deal is never hidden: it is a card, or its stack has the edge of a held one', () => {
    fc.assert(
      fc.property(deals, (given) => {
        const placed = placeCards(laneOf(given, 10), WIDTH);
        const held = given.filter(({ standing }) => standing === 'held');
        const shown = placed.filter((one) => (one.kind === 'card' ? one.card.standing : one.standing) === 'held');
        expect(shown.length > 0).toBe(held.length > 0);
        for (const { age } of held) {
          const found = placed.some((one) =>
            one.kind === 'card'
              ? one.card.age === age && one.card.standing === 'held'
              : one.standing === 'held' && one.ageFrom <= age && age <= one.ageTo,
          );
          expect(found).toBe(true);
        }
      }),
      { numRuns: 200 },
    );
  });
});
