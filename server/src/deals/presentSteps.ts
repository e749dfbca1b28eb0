import type { deal as contract, TypeOf } from '@ladder/contract';
import {
  canTakeResultBack,
  type Deal,
  daysBetween,
  localDay,
  type NameOf,
  personActor,
  runsAtHand,
  runsThatCount,
  type Setting,
  type StepRun,
  stageOf,
  stepPerson,
} from '@ladder/core';
import type { Person } from '../session/person.ts';
import { rankOf } from './rank.ts';

type Detail = TypeOf<typeof contract.detail>;

/** The steps at hand, those that are owed first; a closed deal has none. */
export function presentStepsAtHand(
  deal: Deal,
  setting: Setting,
  now: number,
  { nameOf, importerOf }: { readonly nameOf: NameOf; readonly importerOf: (importId: string) => string | null },
): Detail['stepsAtHand'] {
  if (deal.status.state !== 'open') return [];
  const today = localDay(now, setting.zone);
  return runsAtHand(deal, setting.document).map((run) => {
    const step = stageOf(setting.document, run.stage)?.steps.find(({ id }) => id === run.step);
    const person = step ? stepPerson(deal, run, step, importerOf) : run.assignee;
    return {
      begunDay: run.begunDay,
      dueDay: run.dueDay,
      daysLate: daysLate(run.dueDay, today),
      goesOn: run.goesOn?.at == null ? null : { at: new Date(run.goesOn.at).toISOString(), result: run.goesOn.result },
      person: person === null ? null : { id: person, name: nameOf(person) ?? 'Unknown' },
      doneBefore: runsThatCount(deal).filter((other) => isSameStep(other, run) && other.seq < run.seq).length,
      ...runParts(run),
      name: step?.name ?? run.name,
    };
  });
}

/** Days that a step at hand is late: from the day after its due day (S51). */
export const daysLate = (dueDay: string | null, today: string): number =>
  dueDay === null ? 0 : Math.max(0, daysBetween(dueDay, today));

const isSameStep = (a: StepRun, b: StepRun): boolean =>
  a.step === b.step && a.visitSeq === b.visitSeq && a.owed === b.owed;

/** What was done, in the order in which it began, and whether the person may take it back. */
export function presentStepsDone(
  deal: Deal,
  setting: Setting,
  person: Person,
  now: number,
  nameOf: NameOf,
): Detail['stepsDone'] {
  const by = { id: personActor(person.id), rank: rankOf(person) };
  const counted = runsThatCount(deal);
  return counted.flatMap((run) => {
    const { end, dueDay } = run;
    if (!end) return [];
    return [
      {
        how: end.how,
        resultName: end.resultName,
        at: new Date(end.at).toISOString(),
        day: end.day,
        by: nameOf(end.by) ?? null,
        dueDay,
        takeBack: end.how === 'result' && canTakeResultBack(deal, setting, run.seq, by, now, counted).ok,
        ...runParts(run),
      },
    ];
  });
}

const runParts = ({ seq, stage, step, name, visitSeq, owed }: StepRun) => ({
  seq,
  stage,
  step,
  name,
  visitSeq,
  owed: owed === 'yes',
});
