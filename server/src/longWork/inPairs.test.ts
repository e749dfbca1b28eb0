import { setTimeout as pause } from 'node:timers/promises';
import { expect, it } from 'vitest';
import { inPairs } from './inPairs.ts';

async function* numbers(count: number): AsyncGenerator<number> {
  for (let n = 1; n <= count; n++) yield n;
}

it('does everything, two at a time', async () => {
  const done: number[] = [];
  let [now, most] = [0, 0];
  await inPairs(numbers(7), async (n) => {
    most = Math.max(most, ++now);
    await pause(n % 2 ? 6 : 2);
    now--;
    done.push(n);
  });
  expect(done.sort()).toEqual([1, 2, 3, 4, 5, 6, 7]);
  expect(most).toBe(2);
});

it('tells what went wrong once nothing is being done any more, and begins nothing after it', async () => {
  const [begun, ended]: number[][] = [[], []];
  const all = inPairs(numbers(7), async (n) => {
    begun?.push(n);
    await pause(4);
    if (n === 2) throw new Error('The second');
    ended?.push(n);
  });
  await expect(all).rejects.toThrow('The second');
  expect(begun).toEqual([1, 2, 3]);
  expect(ended).toEqual([1, 3]);
});
