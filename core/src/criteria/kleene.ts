/** Three-valued truth; null is *unknown*, as NULL is in SQL. */
export type Kleene = boolean | null;

/*
 * Strong three-valued logic. Source: S. C. Kleene, "On notation for ordinal numbers", Journal of Symbolic Logic 3
 * (1938), and ISO/IEC 9075 (SQL), which uses the same tables.
 */

export const not = (a: Kleene): Kleene => (a === null ? null : !a);

export function and(a: Kleene, b: Kleene): Kleene {
  if (a === false || b === false) return false;
  return a === null || b === null ? null : true;
}

export function or(a: Kleene, b: Kleene): Kleene {
  if (a === true || b === true) return true;
  return a === null || b === null ? null : false;
}
