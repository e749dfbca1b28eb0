import type { StepAtHand } from './dealsApi.ts';

/** Where on the page a step at hand stands. */
export const stepCardId = ({ seq }: Pick<StepAtHand, 'seq'>): string => `step-${seq}`;
