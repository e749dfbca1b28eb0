import type { Problem } from '../criteria/check.ts';
import type { Catalogue } from '../facts/field.ts';
import { type Capture, type GuidedStep, type Lead, MOST_STEPS, type StepResult } from '../steps/step.ts';
import { outcomeOf, type ProcessDocument, type Stage, stageOf } from './document.ts';

const LAST_DUE = 3_650;

/** What keeps a stage's guided steps from being published; `pointer` is the stage's place. */
export function checkSteps(
  stage: Stage,
  document: ProcessDocument,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  const { steps } = stage;
  const tooMany = { pointer: `${pointer}/steps`, detail: `A stage has at most ${MOST_STEPS} steps.` };
  return [
    ...(steps.length > MOST_STEPS ? [tooMany] : []),
    ...checkNames(steps, `${pointer}/steps`, 'step', 'this stage'),
    ...steps.flatMap((step, place) => checkStep(step, stage, document, catalogue, `${pointer}/steps/${place}`)),
  ];
}

function checkStep(
  step: GuidedStep,
  stage: Stage,
  document: ProcessDocument,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  const { due, results, captures, who } = step;
  const isGoodDue = due === null || (Number.isInteger(due.days) && due.days >= 0 && due.days <= LAST_DUE);
  return [
    ...(isGoodDue
      ? []
      : [{ pointer: `${pointer}/due/days`, detail: 'A step is due after a whole number of days from 0 to 3,650.' }]),
    ...(who.by === 'person' && who.person === ''
      ? [{ pointer: `${pointer}/who/person`, detail: 'Choose the person who does the step.' }]
      : []),
    ...checkCaptures(captures, catalogue, `${pointer}/captures`),
    ...(results.length > 0
      ? []
      : [{ pointer: `${pointer}/results`, detail: 'A step needs a result at least, or it never ends.' }]),
    ...checkNames(results, `${pointer}/results`, 'result', 'this step'),
    ...results.flatMap((result, place) => checkLead(result, stage, document, `${pointer}/results/${place}/leads`)),
  ];
}

function checkNames(
  list: readonly (GuidedStep | StepResult)[],
  pointer: string,
  word: string,
  where: string,
): readonly Problem[] {
  const names = list.map(({ name }) => name.trim().toLowerCase());
  return names.flatMap((name, place) => {
    const at = `${pointer}/${place}/name`;
    if (name === '') return [{ pointer: at, detail: `A ${word} needs a name.` }];
    return names.indexOf(name) < place
      ? [{ pointer: at, detail: `There is already a ${word} of ${where} called “${list[place]?.name.trim()}”.` }]
      : [];
  });
}

function checkCaptures(captures: readonly Capture[], catalogue: Catalogue, pointer: string): readonly Problem[] {
  return captures.flatMap(({ field }, place) => {
    const known = catalogue.get(field);
    const at = `${pointer}/${place}/field`;
    if (!known)
      return [{ pointer: at, detail: 'This field is no longer in the catalogue. Choose another, or take it out.' }];
    if (known.holder !== 'deal')
      return [{ pointer: at, detail: 'A step fills fields of the deal; this is one of its customer or contact.' }];
    if (known.type === 'calculated')
      return [{ pointer: at, detail: 'This number is calculated; fill what it is calculated from.' }];
    return captures.findIndex((other) => other.field === field) < place
      ? [{ pointer: at, detail: 'The step fills this field already.' }]
      : [];
  });
}

function checkLead(
  { leads }: { readonly leads: Lead },
  stage: Stage,
  document: ProcessDocument,
  pointer: string,
): readonly Problem[] {
  switch (leads.to) {
    case 'next':
    case 'finish':
    case 'move_on':
      return [];
    case 'step':
      return stage.steps.some(({ id }) => id === leads.step)
        ? []
        : [{ pointer: `${pointer}/step`, detail: 'The step that this leads to is gone. Choose another.' }];
    case 'stage':
      if (leads.stage === stage.id)
        return [{ pointer: `${pointer}/stage`, detail: 'The deal is in this stage already. Choose another.' }];
      return stageOf(document, leads.stage)
        ? []
        : [{ pointer: `${pointer}/stage`, detail: 'The stage that this leads to is gone. Choose another.' }];
    case 'outcome':
      return outcomeOf(document, leads.outcome)
        ? []
        : [{ pointer: `${pointer}/outcome`, detail: 'The end that this leads to is gone. Choose another.' }];
  }
}
