import type { DealRecord } from '../deals/record.ts';
import type { Moment } from '../deals/setting.ts';
import type { MessageHow } from '../steps/step.ts';

/** A message that a change asks for: of what the deal is then it is made outside, where templates are kept. */
export const messageToPrepare = (
  template: string,
  how: MessageHow,
  { by, happenedAt: at }: Pick<Moment, 'by' | 'happenedAt'>,
): DealRecord => ({ kind: 'message', template, how, by, at });
