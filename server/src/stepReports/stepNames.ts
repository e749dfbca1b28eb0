import type { ProcessId, Stage, StageId } from '@ladder/core';
import type { EntityManager } from 'typeorm';
import { stagesOfVersions } from '../deals/repository/lanes.ts';

interface Counted {
  readonly stage: StageId;
  readonly step: string;
}

/** How steps and their results are called. */
export interface StepNames {
  readonly step: (of: Counted) => string;
  readonly result: (of: Counted & { readonly result: string }) => string;
}

/** As the live version calls them, and those that it no longer has as the last version that had them did. */
export async function stepNames(
  tx: EntityManager,
  process: ProcessId,
  live: readonly Stage[],
  used: readonly (Counted & { readonly result?: string })[],
): Promise<StepNames> {
  const isKnown = (one: Counted & { readonly result?: string }): boolean =>
    one.result === undefined
      ? stepIn(live, one) !== undefined
      : resultIn(live, { ...one, result: one.result }) !== undefined;
  const stages = used.every(isKnown) ? live : [...live, ...(await stagesOfVersions(tx, process))];
  return {
    step: (of) => stepIn(stages, of)?.name ?? of.step,
    result: (of) => resultIn(stages, of)?.name ?? of.result,
  };
}

const stepsIn = (stages: readonly Stage[], { stage, step }: Counted) =>
  stages.filter(({ id }) => id === stage).flatMap(({ steps }) => steps.filter(({ id }) => id === step));

const stepIn = (stages: readonly Stage[], of: Counted) => stepsIn(stages, of)[0];

const resultIn = (stages: readonly Stage[], of: Counted & { readonly result: string }) =>
  stepsIn(stages, of)
    .flatMap(({ results }) => results)
    .find(({ id }) => id === of.result);
