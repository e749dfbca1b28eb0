import { harmlessCell } from '@ladder/core';

type Cell = string | number | null;

const QUOTED = /[",\r\n]/;
const cellText = (cell: Cell): string => {
  const text = typeof cell === 'string' ? harmlessCell(cell) : String(cell ?? '');
  return QUOTED.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** Rows as a CSV (RFC 4180); texts that a spreadsheet would run are made harmless. */
export const csvOf = (rows: readonly (readonly Cell[])[]): string =>
  rows.map((row) => `${row.map(cellText).join(',')}\r\n`).join('');

/** Gives the rows to the person as a file. */
export function downloadCsv(name: string, rows: readonly (readonly Cell[])[]): void {
  const address = URL.createObjectURL(new Blob([`\ufeff${csvOf(rows)}`], { type: 'text/csv;charset=utf-8' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
