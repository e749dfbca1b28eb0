import { checkDesign, type Problem, publishProblems } from '@ladder/core';
import { type DesignInput, designOf } from './designInput.ts';

/* A thread that checks designs, so that nobody waits for it. */

export type CheckTask = { readonly what: 'problems' | 'counts'; readonly design: DesignInput };

export interface RemarkCounts {
  readonly problems: number;
  readonly warnings: number;
}

export default ({ what, design }: CheckTask): readonly Problem[] | RemarkCounts => {
  if (what === 'problems') return publishProblems(designOf(design));
  const { remarks } = checkDesign(designOf(design));
  const count = (weight: string): number => remarks.filter((remark) => remark.weight === weight).length;
  return { problems: count('problem'), warnings: count('warning') };
};
