import { describe, expect, it } from 'vitest';
import { and, type Kleene, not, or } from './kleene.ts';

/* Truth tables as in S. C. Kleene, Introduction to Metamathematics (1952), § 64, from memory; U is null here. */
const T = true;
const F = false;
const U = null;

describe('three-valued logic', () => {
  it.each<[Kleene, Kleene, Kleene, Kleene]>([
    [T, T, T, T],
    [T, F, F, T],
    [T, U, U, T],
    [F, T, F, T],
    [F, F, F, F],
    [F, U, F, U],
    [U, T, U, T],
    [U, F, F, U],
    [U, U, U, U],
  ])('%s and %s is %s, or is %s', (a, b, both, either) => {
    expect(and(a, b)).toBe(both);
    expect(or(a, b)).toBe(either);
  });

  it('turns true and false round and leaves unknown unknown', () => {
    expect([T, F, U].map(not)).toEqual([F, T, U]);
  });
});
