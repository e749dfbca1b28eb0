/** One way of doing a piece of work, to be timed against others. */
export interface Contender {
  readonly name: string;
  /** Does the whole work once and gives something that depends on it, so that nothing is optimised away. */
  readonly run: () => number;
}

const RUNS = 7;

/**
 * Times contenders in turns, one run of each after the other, so that what disturbs one disturbs all. Gives the median
 * seconds of each, after one run that is not counted.
 */
export function measure(contenders: readonly Contender[], runs = RUNS): ReadonlyMap<string, number> {
  const times = new Map(contenders.map(({ name }) => [name, [] as number[]]));
  for (let round = 0; round <= runs; round++) {
    for (const { name, run } of contenders) {
      const began = process.hrtime.bigint();
      run();
      if (round > 0) times.get(name)?.push(Number(process.hrtime.bigint() - began) / 1e9);
    }
  }
  return new Map([...times].map(([name, list]) => [name, median(list)]));
}

function median(list: readonly number[]): number {
  const sorted = [...list].sort((a, b) => a - b);
  return ((sorted[Math.floor((sorted.length - 1) / 2)] ?? 0) + (sorted[Math.floor(sorted.length / 2)] ?? 0)) / 2;
}

/** Prints how many times faster ours is than each other: `NAME WHAT ratio VALUE (ours A, other B, n runs)`. */
export function report(
  name: string,
  times: ReadonlyMap<string, number>,
  ours: string,
  work: number,
  unit: string,
  runs = RUNS,
): void {
  const rate = (seconds: number): string => `${Math.round(work / seconds).toLocaleString('en-GB')} ${unit}`;
  const own = times.get(ours) ?? 0;
  for (const [other, seconds] of times) {
    if (other !== ours)
      console.log(
        `${name} ${ours} against ${other} ratio ${(seconds / own).toFixed(2)} (ours ${rate(own)}, other ${rate(seconds)}, ${runs} runs)`,
      );
  }
}
