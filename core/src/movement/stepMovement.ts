import { countedMedian } from './countedMedian.ts';

/** Runs of one step that ended with a result after so many days, by its result. */
export interface StepRunCount {
  readonly step: string;
  readonly name: string;
  readonly result: string;
  readonly resultName: string;
  readonly days: number;
  readonly count: number;
}

/** How a step was carried out: how long it took, and how it ended. */
export interface StepMovement {
  readonly step: string;
  readonly name: string;
  /** Runs that ended with a result. */
  readonly runs: number;
  /** Days from its beginning to its end. */
  readonly medianDays: number | null;
  /** The most frequent first. */
  readonly results: readonly { readonly result: string; readonly name: string; readonly count: number }[];
}

/** Counted runs as figures, a step each, in the order in which the steps are first told. */
export function stepMovement(rows: readonly StepRunCount[]): readonly StepMovement[] {
  const steps = [...new Set(rows.map(({ step }) => step))];
  return steps.map((step) => {
    const own = rows.filter((row) => row.step === step);
    const results = [...new Set(own.map(({ result }) => result))].map((result) => {
      const ended = own.filter((row) => row.result === result);
      return { result, name: ended.at(-1)?.resultName ?? result, count: total(ended) };
    });
    return {
      step,
      name: own.at(-1)?.name ?? step,
      runs: total(own),
      medianDays: countedMedian(own),
      results: results.toSorted((a, b) => b.count - a.count || (a.name < b.name ? -1 : 1)),
    };
  });
}

const total = (rows: readonly { readonly count: number }[]): number => rows.reduce((sum, { count }) => sum + count, 0);
