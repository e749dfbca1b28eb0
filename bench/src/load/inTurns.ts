/** Something to be timed. */
export interface Timing {
  readonly name: string;
  readonly run: () => Promise<unknown>;
}

/**
 * Median seconds of each, one run of each after the other, so that what disturbs one disturbs all. The first are not counted:
 * until a server's code has been compiled for what is asked of it, it is not what people wait for.
 */
export async function inTurns(
  timings: readonly Timing[],
  { warming = 1, runs = 5 } = {},
): Promise<ReadonlyMap<string, number>> {
  const times = new Map(timings.map(({ name }) => [name, [] as number[]]));
  for (let turn = 0; turn < warming + runs; turn++)
    for (const { name, run } of timings) {
      const seconds = await secondsOf(run);
      if (turn >= warming) times.get(name)?.push(seconds);
    }
  return new Map([...times].map(([name, list]) => [name, median(list)]));
}

export async function secondsOf(run: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await run();
  return (performance.now() - began) / 1_000;
}

export const median = (list: readonly number[]): number =>
  [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;

/** Prints how each of ours compares with another: `BENCH NAME RATIO times OTHER (…)`. */
export function tellRatios(bench: string, times: ReadonlyMap<string, number>, other: string): void {
  const base = times.get(other) ?? 0;
  for (const [name, seconds] of times)
    if (name !== other)
      console.log(
        `${bench} ${name} ${(seconds / base).toFixed(2)} times ${other} (${milliseconds(seconds)} and ${milliseconds(base)})`,
      );
}

const milliseconds = (seconds: number): string => `${(seconds * 1_000).toFixed(seconds < 0.1 ? 1 : 0)} ms`;
