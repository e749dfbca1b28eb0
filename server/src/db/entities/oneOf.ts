/** A check that a column holds one of a closed set, which is written once, where it belongs. */
export const oneOf = (
  name: string,
  column: string,
  values: readonly string[],
): { name: string; expression: string } => ({
  name,
  expression: `${column} in (${values.map((value) => `'${value}'`).join(', ')})`,
});
