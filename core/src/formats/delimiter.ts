export const DELIMITERS = [',', ';', '\t'] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** The delimiter that separates the first record into the most cells, quoted text left aside; a comma where none does. */
export function guessDelimiter(head: string): Delimiter {
  const record = firstRecord(head);
  const counts = DELIMITERS.map((delimiter) => record.split(delimiter).length);
  const best = counts.indexOf(Math.max(...counts));
  return DELIMITERS[best] ?? ',';
}

/** The first record with its quoted parts taken out. */
function firstRecord(head: string): string {
  let quoted = false;
  let record = '';
  for (const char of head) {
    if (char === '"') quoted = !quoted;
    else if (!quoted && (char === '\n' || char === '\r')) break;
    else if (!quoted) record += char;
  }
  return record;
}
