/** A seeded source of numbers from 0 to 1 (mulberry32, public domain): the same seed gives the same company. */
export type Random = () => number;

export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

export const pick = <T>(random: Random, list: readonly T[]): T => {
  const item = list[Math.floor(random() * list.length)];
  if (item === undefined) throw new RangeError('Nothing to pick from');
  return item;
};

export const chance = (random: Random, share: number): boolean => random() < share;

export const between = (random: Random, low: number, high: number): number =>
  Math.floor(low + random() * (high - low + 1));

/** A length that is usually near `middle` and now and then far longer: log-normal with the given spread. */
export function longTailed(random: Random, middle: number, spread: number): number {
  const normal = Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  return middle * Math.exp(spread * normal);
}

/** An id that is the same at every load: a version-7 shape made from the seed. */
export function seededId(random: Random, at: number): string {
  const hex = (digits: number): string =>
    Array.from({ length: digits }, () => Math.floor(random() * 16).toString(16)).join('');
  const time = at.toString(16).padStart(12, '0');
  return `${time.slice(0, 8)}-${time.slice(8)}-7${hex(3)}-${pick(random, ['8', '9', 'a', 'b'])}${hex(3)}-${hex(12)}`;
}
