import { foldText } from '@ladder/core';

/** A text to be found anywhere in a folded column by `like`, its own signs taken as they stand. */
export const likeText = (text: string): string => `%${foldText(text).replace(/[\\%_]/g, (char) => `\\${char}`)}%`;
