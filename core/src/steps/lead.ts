import type { GuidedStep, Lead, StepResult } from './step.ts';

/** What a result leads to within its stage: a step, or the end of the stage's steps, with a move or without. */
export type LeadsTo = { readonly to: 'step'; readonly step: GuidedStep } | Exclude<Lead, { to: 'next' | 'step' }>;

/** Where a result of a stage's step leads. After the last step, and to a step that is gone, the steps are finished. */
export function leadOf(steps: readonly GuidedStep[], step: string, { leads }: Pick<StepResult, 'leads'>): LeadsTo {
  if (leads.to !== 'next' && leads.to !== 'step') return leads;
  const place = steps.findIndex(({ id }) => id === step);
  const after = leads.to === 'step' ? steps.find(({ id }) => id === leads.step) : steps[place + 1];
  return after ? { to: 'step', step: after } : { to: 'finish' };
}
