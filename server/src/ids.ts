import { randomBytes, randomUUID } from 'node:crypto';

/** A new id that sorts by the time it was made (RFC 9562, version 7), so that new rows stand together in indexes. */
export function newId(now: number): string {
  const bytes = randomBytes(16);
  bytes.writeUIntBE(now, 0, 6);
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x70;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = bytes.toString('hex');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

/** An id inside a document: short, and unlike any other. */
export const newKey = (): string => randomUUID().slice(0, 13).replace('-', '');
