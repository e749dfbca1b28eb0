import type { GuidedStep, Lead, StepResult } from '../steps/step.ts';

/** A result, named by its id. */
export const result = (id: string, leads: Lead = { to: 'next' }, more: Partial<StepResult> = {}): StepResult => ({
  id,
  name: id,
  captures: 'asked',
  leads,
  actions: [],
  ...more,
});

/** A guided step, named by its id, that ends as done. */
export const guided = (id: string, more: Partial<GuidedStep> = {}): GuidedStep => ({
  id,
  name: id,
  instruction: '',
  who: { by: 'owner' },
  due: null,
  captures: [],
  results: [result('done')],
  byItself: null,
  afterReturn: 'keep',
  ...more,
});
