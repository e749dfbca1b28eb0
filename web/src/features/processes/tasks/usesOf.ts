import type { ProcessDocument } from '@ladder/core';

/** Where a set of tasks is used: on arrival in a stage, or by a result of a step. */
export const usesOf = (set: string, { stages }: ProcessDocument): readonly string[] =>
  stages.flatMap(({ name, arrival, steps }) => [
    ...(arrival.some((one) => one.do === 'add_tasks' && one.set === set) ? [`on arrival in ${name}`] : []),
    ...steps.flatMap((step) =>
      step.results
        .filter(({ actions }) => actions.some((action) => action.do === 'add_tasks' && action.set === set))
        .map((result) => `${step.name}: ${result.name}`),
    ),
  ]);
