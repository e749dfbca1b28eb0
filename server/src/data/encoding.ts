/** How a text file is written, told by its first bytes. */
const ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be'] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** The encoding that a byte order mark names (RFC 2781, section 3.2; the Unicode Standard, 23.8); UTF-8 without one. */
export function encodingOf(head: Buffer): Encoding {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  return head[0] === 0xfe && head[1] === 0xff ? 'utf-16be' : 'utf-8';
}

/** Whether a file without a mark looks like UTF-16 all the same: every other byte of plain letters is zero. */
export function looksLikeUtf16(head: Buffer): boolean {
  const pairs = Math.min(100, Math.floor(head.length / 2));
  const zeros = (offset: number): number =>
    Array.from({ length: pairs }, (_none, pair) => head[2 * pair + offset]).filter((byte) => byte === 0).length;
  return pairs > 0 && Math.max(zeros(0), zeros(1)) > pairs * 0.8;
}

/** The first bytes as text; half a character at their end is left out. */
export const decodeHead = (head: Buffer): string => new TextDecoder(encodingOf(head)).decode(head, { stream: true });
