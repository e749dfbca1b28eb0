/** A plain generator of whole numbers below a bound, so that a failing run can be had again by its seed. */
export function seededNumbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * below);
  };
}

/** One of a list, by such numbers. */
export const seededChoice =
  (next: (below: number) => number) =>
  <T>(list: readonly T[]): T =>
    list[next(list.length)] as T;
