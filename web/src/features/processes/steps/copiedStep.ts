import {
  type GuidedStep,
  type Lead,
  type ProcessDocument,
  type ResultAction,
  type Stage,
  taskSetOf,
} from '@ladder/core';
import { newKey } from '../../../parts/newKey.ts';
import { freeStepName } from './freeStepName.ts';

/**
 * A step as it can stand in a stage of this or another process: under an id and a name of its own; what leads to something that
 * the stage or process does not have leads to the next step; ticks of items and sets of tasks that it does not have are left out.
 */
export function copiedStep(step: GuidedStep, document: ProcessDocument, stage: Stage): GuidedStep {
  const items = new Set(document.stages.flatMap(({ checklist }) => checklist.map(({ id }) => id)));
  const isThere = (action: ResultAction): boolean =>
    (action.do !== 'tick' || items.has(action.item)) &&
    (action.do !== 'add_tasks' || taskSetOf(document, action.set) !== undefined);
  return {
    ...step,
    id: newKey(),
    name: freeStepName(stage.steps, step.name),
    results: step.results.map((result) => ({
      ...result,
      leads: hasLead(result.leads, document, stage) ? result.leads : { to: 'next' },
      actions: result.actions.filter(isThere),
    })),
  };
}

function hasLead(leads: Lead, document: ProcessDocument, stage: Stage): boolean {
  switch (leads.to) {
    case 'step':
      return stage.steps.some(({ id }) => id === leads.step);
    case 'stage':
      return leads.stage !== stage.id && document.stages.some(({ id }) => id === leads.stage);
    case 'outcome':
      return document.outcomes.some(({ id }) => id === leads.outcome);
    case 'next':
    case 'finish':
    case 'move_on':
      return true;
  }
}
