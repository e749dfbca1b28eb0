import { list, object, text, yesNo } from './schema.ts';

/** A sentence in pieces, some of them strong. */
export const pieces = list(object({ text: text({ min: 0, max: 20_000 }), strong: yesNo() }));
