import { leadOf } from '../steps/lead.ts';
import type { StepResult } from '../steps/step.ts';
import { outcomeOf, type ProcessDocument, placeOf, type Stage, stageOf } from './document.ts';

/** Where a result leads, in a few words, as its button says: `then Review call`, `back to Walk the site`, `closes the deal as lost`. */
export function leadWords(
  document: ProcessDocument,
  stage: Stage,
  step: string,
  result: Pick<StepResult, 'leads'>,
  owed: 'no' | 'yes' = 'no',
): string {
  const lead = leadOf(stage.steps, step, result);
  if (lead.to === 'step') {
    if (lead.step.id === step) return 'the same step again';
    const place = (id: string): number => stage.steps.findIndex((one) => one.id === id);
    return place(lead.step.id) < place(step) ? `back to ${lead.step.name}` : `then ${lead.step.name}`;
  }
  // What is owed routes only within its stage (S48).
  if (owed === 'yes') return 'nothing more is owed';
  switch (lead.to) {
    case 'finish':
      return 'the steps are finished';
    case 'move_on':
      return moveOnWords(document, stage);
    case 'stage': {
      const there = stageOf(document, lead.stage);
      if (!there) return 'to a stage that is gone';
      return `${placeOf(document, lead.stage) < placeOf(document, stage.id) ? 'back' : 'moves the deal'} to ${there.name}`;
    }
    case 'outcome':
      return `closes the deal as ${outcomeOf(document, lead.outcome)?.name.toLowerCase() ?? 'something that is gone'}`;
  }
}

function moveOnWords(document: ProcessDocument, stage: Stage): string {
  const next = document.stages[placeOf(document, stage.id) + 1];
  const won = document.outcomes.find(({ counts }) => counts === 'won');
  return next ? `moves the deal on to ${next.name}` : `closes the deal as ${won?.name.toLowerCase() ?? 'won'}`;
}
