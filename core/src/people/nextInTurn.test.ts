import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nextInTurn } from './nextInTurn.ts';

const here = (...ids: readonly string[]) => ids.map((id) => ({ id, here: 'yes' as const }));

describe('whose turn it is', () => {
  it('is the next one’s who is here, and again the first one’s', () => {
    expect(nextInTurn(here('a', 'b', 'c'), null)).toBe('a');
    expect(nextInTurn(here('a', 'b', 'c'), 'a')).toBe('b');
    expect(nextInTurn(here('a', 'b', 'c'), 'c')).toBe('a');
    expect(
      nextInTurn(
        [
          { id: 'a', here: 'yes' },
          { id: 'b', here: 'away' },
          { id: 'c', here: 'yes' },
        ],
        'a',
      ),
    ).toBe('c');
    expect(nextInTurn(here('a', 'b'), 'who has left')).toBe('a');
    expect(nextInTurn([{ id: 'a', here: 'away' }], null)).toBeNull();
    expect(nextInTurn([], 'a')).toBeNull();
  });

  it('comes to everyone who is here equally often', () => {
    const people = fc.uniqueArray(
      fc.record({ id: fc.string(), here: fc.constantFrom('yes' as const, 'away' as const) }),
      {
        selector: ({ id }) => id,
        maxLength: 8,
      },
    );
    fc.assert(
      fc.property(people, fc.integer({ min: 1, max: 5 }), (list, rounds) => {
        const present = list.filter((person) => person.here === 'yes');
        const turns: (string | null)[] = [];
        for (let turn = 0; turn < present.length * rounds; turn++) turns.push(nextInTurn(list, turns.at(-1) ?? null));
        for (const { id } of present) expect(turns.filter((one) => one === id)).toHaveLength(rounds);
      }),
    );
  });
});
