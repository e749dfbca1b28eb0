import { randomUUID } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';

/** A new id that sorts by the time it was made (RFC 9562, version 7), so that new rows stand together in indexes. */
export const newId = <Id extends string = string>(now: number): Id => uuidv7({ msecs: now }) as Id;

/** An id inside a document: short, and unlike any other. */
export const newKey = <Id extends string = string>(): Id => randomUUID().slice(0, 13).replace('-', '') as Id;
