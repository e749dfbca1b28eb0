/** The list with the one at a place moved to another. */
export function shifted<T>(list: readonly T[], from: number, to: number): readonly T[] {
  const moved = list[from];
  if (moved === undefined || to < 0 || to >= list.length) return list;
  const rest = list.toSpliced(from, 1);
  return rest.toSpliced(to, 0, moved);
}
