import type { Problem } from '../criteria/check.ts';
import type { Catalogue } from '../facts/field.ts';
import { checkValue, describeValueProblem, isEmpty } from '../facts/value.ts';
import {
  type Capture,
  type GuidedStep,
  type Lead,
  MOST_STEPS,
  MOST_WAIT_DAYS,
  type ResultAction,
  SETTABLE_TYPES,
  type StepResult,
} from '../steps/step.ts';
import { checkNames } from './checkNames.ts';
import { checkMessage, checkSetUsed } from './checkTasks.ts';
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
    ...results.flatMap((result, place) => checkActions(result, document, catalogue, `${pointer}/results/${place}`)),
    ...checkByItself(step, `${pointer}/byItself`),
  ];
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

function checkActions(
  { actions }: StepResult,
  document: ProcessDocument,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  return actions.flatMap((action, place) => checkAction(action, document, catalogue, `${pointer}/actions/${place}`));
}

function checkAction(
  action: ResultAction,
  document: ProcessDocument,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  switch (action.do) {
    case 'set_field':
      return checkSetting(action, catalogue, pointer);
    case 'tick':
      return document.stages.some(({ checklist }) => checklist.some(({ id }) => id === action.item))
        ? []
        : [{ pointer: `${pointer}/item`, detail: 'The checklist item that is to be ticked is gone. Choose another.' }];
    case 'add_tasks':
      return checkSetUsed(action.set, document, pointer);
    case 'message':
      return checkMessage(action, pointer);
    case 'note':
      return action.text.trim() === '' ? [{ pointer: `${pointer}/text`, detail: 'A note needs a text.' }] : [];
  }
}

function checkSetting(
  { field, set }: Extract<ResultAction, { do: 'set_field' }>,
  catalogue: Catalogue,
  pointer: string,
): readonly Problem[] {
  const known = catalogue.get(field);
  const at = `${pointer}/field`;
  if (!known) return [{ pointer: at, detail: 'The field that is to be set is gone. Choose another.' }];
  const isSettable = known.holder === 'deal' && (SETTABLE_TYPES as readonly string[]).includes(known.type);
  if (!isSettable)
    return [{ pointer: at, detail: `${known.name} is changed by a person alone. Choose another field.` }];
  if (set.to === 'today' && known.type !== 'date')
    return [{ pointer: `${pointer}/set`, detail: `${known.name} takes no day.` }];
  const problem = set.to === 'value' ? checkValue(known, set.value) : null;
  if (problem) return [{ pointer: `${pointer}/set`, detail: `${known.name}: ${describeValueProblem(problem)}` }];
  return set.to === 'value' && isEmpty(set.value)
    ? [{ pointer: `${pointer}/set`, detail: `Say what ${known.name} is set to.` }]
    : [];
}

/** What goes on by itself can ask nobody anything. */
function checkByItself({ byItself, results, captures }: GuidedStep, pointer: string): readonly Problem[] {
  if (!byItself) return [];
  const { days } = byItself;
  if (!(Number.isInteger(days) && days >= 1 && days <= MOST_WAIT_DAYS))
    return [
      { pointer: `${pointer}/days`, detail: 'A step goes on by itself after a whole number of days from 1 to 3,650.' },
    ];
  const result = results.find(({ id }) => id === byItself.result);
  if (!result) return [{ pointer: `${pointer}/result`, detail: 'Choose the result that is taken then.' }];
  const asks = result.captures === 'asked' && captures.some(({ need }) => need === 'must');
  return asks
    ? [
        {
          pointer: `${pointer}/result`,
          detail:
            'This result asks for fields, and nobody is there to fill them. Choose another, or let it ask for none.',
        },
      ]
    : [];
}
