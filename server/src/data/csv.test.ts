import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readRecords } from './csv.ts';

/** Cells with everything that RFC 4180 has rules for. */
const cell = fc.oneof(
  fc.string({ maxLength: 8 }),
  fc.string({ unit: fc.constantFrom('"', ',', ';', '\t', '\r\n', '\n', ' ', 'a', 'é', '🌿'), maxLength: 8 }),
);
const survivesUtf8 = (text: string): boolean => Buffer.from(text).toString() === text && !text.includes('\ufeff');
const usable = (table: readonly (readonly string[])[]): boolean =>
  table.every((row) => row.some((text) => text !== '') && row.every(survivesUtf8));

/* RFC 4180, section 2, rules 5 to 7: a cell with a quote, the delimiter or a line break is quoted, a quote in it doubled. */
const write = (table: readonly (readonly string[])[], delimiter: string, lineBreak: string): string =>
  table
    .map((row) =>
      row
        .map((text) => (/["\r\n]/.test(text) || text.includes(delimiter) ? `"${text.replaceAll('"', '""')}"` : text))
        .join(delimiter),
    )
    .join(lineBreak);

async function read(bytes: Buffer, delimiter: ',' | ';' | '\t', pieces: readonly number[]) {
  const chunks: Buffer[] = [];
  let from = 0;
  for (const size of pieces) {
    chunks.push(bytes.subarray(from, from + size));
    from += size;
  }
  chunks.push(bytes.subarray(from));
  const records = [];
  for await (const record of readRecords(chunks, delimiter)) records.push(record);
  return records;
}

describe('a table written by the rules of RFC 4180', () => {
  it('is read as it was, whatever its delimiter and line breaks, with a byte order mark or without, in any pieces', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 5 }).filter(usable),
        fc.constantFrom(',' as const, ';' as const, '\t' as const),
        fc.constantFrom('\r\n', '\n'),
        fc.boolean(),
        fc.boolean(),
        fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 12 }),
        async (table, delimiter, lineBreak, hasMark, endsLine, pieces) => {
          const text = `${hasMark ? '\ufeff' : ''}${write(table, delimiter, lineBreak)}${endsLine ? lineBreak : ''}`;
          const records = await read(Buffer.from(text), delimiter, pieces);
          expect(records.map(({ cells }) => cells)).toEqual(table);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('tells each record’s line, as an editor counts them', async () => {
    const text = 'a,b\r\n"one\r\ntwo",x\r\n\r\n"three\nfour",y\r\nlast,z\r\n';
    const records = await read(Buffer.from(text), ',', []);
    expect(records.map(({ line, cells }) => [line, cells.at(-1)])).toEqual([
      [1, 'b'],
      [2, 'x'],
      [5, 'y'],
      [7, 'z'],
    ]);
  });
});

describe('what is no such table', () => {
  const refusal = async (bytes: Buffer | string, delimiter: ',' | ';' = ',') => {
    try {
      await read(Buffer.from(bytes as string), delimiter, [3, 5]);
    } catch (error) {
      return (error as Error).message;
    }
    return 'read';
  };

  it.each([
    ['a quote that is never closed', 'a,"b\nc,d\n', /never closed/],
    ['a quote inside a plain cell', 'a,b"c\n', /a quote stands inside a cell/],
    ['text after a closing quote', 'a,"b"c\n', /Line 1 cannot be read as CSV/],
    ['a cell of more than a million characters', `a,${'x'.repeat(1_000_001)}\n`, /longer than a million/],
  ])('%s', async (_what, text, expected) => {
    expect(await refusal(text)).toMatch(expected);
  });

  it('bytes that are not UTF-8, also where they stand at the end', async () => {
    expect(await refusal(Buffer.from([0x61, 0x2c, 0xe9, 0x0a]))).toMatch(/not written in UTF-8/);
    expect(await refusal(Buffer.from([0x61, 0x2c, 0xc3]))).toMatch(/not written in UTF-8/);
  });
});
