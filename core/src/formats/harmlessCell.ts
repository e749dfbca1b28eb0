/** What a spreadsheet runs as a formula, or an apostrophe in front of it: a sign with nothing but a number behind is a number. */
const RISKY = /^(?:[=@\t\r']|[+-](?![\d., ]+$))/;
const MARK = "'";

/**
 * A cell as it is written into a CSV: a text that a spreadsheet would run gets an apostrophe in front (common practice).
 * `plainCell` takes it away again.
 */
export const harmlessCell = (text: string): string => (RISKY.test(text) ? `${MARK}${text}` : text);

/** A cell as it was before it was made harmless. */
export const plainCell = (text: string): string =>
  text.startsWith(MARK) && RISKY.test(text.slice(1)) ? text.slice(1) : text;
