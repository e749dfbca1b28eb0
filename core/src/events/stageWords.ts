import { stageOf } from '../processes/document.ts';
import type { EventWords } from './event.ts';

/** A stage by its name; null is the end of the ladder. */
export const stageWords = (id: string | null, { document }: EventWords): string =>
  id === null ? 'the end' : (stageOf(document, id)?.name ?? 'a stage that is gone');

export const requirementsOpen = (count: number): string => `${count} requirement${count === 1 ? '' : 's'} open`;
