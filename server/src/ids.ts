import { randomBytes, randomUUID } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';

/** A new id that sorts by the time it was made (RFC 9562, version 7), so that new rows stand together in indexes. */
export const newId = <Id extends string = string>(now: number): Id => uuidv7({ msecs: now, random: random16() }) as Id;

const IDS_AT_ONCE = 256;
let drawn: Buffer = Buffer.alloc(0);

/** The chance in one id, drawn for many: an import makes thousands, and drawing took longer than all else of it. */
function random16(): Buffer {
  if (drawn.length === 0) drawn = randomBytes(16 * IDS_AT_ONCE);
  const random = drawn.subarray(0, 16);
  drawn = drawn.subarray(16);
  return random;
}

/** An id inside a document: short, and unlike any other. */
export const newKey = <Id extends string = string>(): Id => randomUUID().slice(0, 13).replace('-', '') as Id;
