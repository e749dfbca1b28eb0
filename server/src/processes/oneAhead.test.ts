import { expect, it } from 'vitest';
import { oneAhead } from './oneAhead.ts';

it('gives the same things in order, and has the next one made meanwhile', async () => {
  const told: string[] = [];
  async function* made() {
    for (const n of [1, 2, 3]) {
      told.push(`made ${n}`);
      yield n;
    }
  }
  for await (const n of oneAhead(made())) {
    await Promise.resolve();
    told.push(`used ${n}`);
  }
  expect(told.indexOf('made 2')).toBeLessThan(told.indexOf('used 1'));
  expect(told.filter((text) => text.startsWith('used'))).toEqual(['used 1', 'used 2', 'used 3']);
});

it('lets the maker go where it is left early, and tells what it fails with in its turn', async () => {
  let isOver = false;
  async function* made() {
    try {
      yield 1;
      yield 2;
      throw new Error('No third');
    } finally {
      isOver = true;
    }
  }
  for await (const n of oneAhead(made())) if (n === 1) break;
  expect(isOver).toBe(true);
  const used: number[] = [];
  const all = (async () => {
    for await (const n of oneAhead(made())) used.push(n);
  })();
  await expect(all).rejects.toThrow('No third');
  expect(used).toEqual([1, 2]);
});
