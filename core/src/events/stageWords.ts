import { targetFromText } from '../gate/route.ts';
import { outcomeOf, stageOf } from '../processes/document.ts';
import type { EventWords } from './event.ts';

/** A stage by its name; null is the end of the ladder. */
export const stageWords = (id: string | null, { document }: EventWords): string =>
  id === null ? 'the end' : (stageOf(document, id)?.name ?? 'a stage that is gone');

/** An outcome by its name; one that the version does not have any more by its id. */
export function outcomeWords(id: string, { document }: EventWords): string {
  return outcomeOf(document, id)?.name ?? id;
}

export const requirementsOf = (count: number): string => `${count} requirement${count === 1 ? '' : 's'}`;

export const requirementsOpen = (count: number): string => `${requirementsOf(count)} open`;

/** Where a move was to lead. */
export function targetWords(text: string, words: EventWords): string {
  const target = targetFromText(text);
  if (target.to === 'stage') return stageWords(target.stage, words);
  return outcomeWords(target.outcome, words);
}
