/** One of those over whom new deals are handed out in turn. */
export interface InTurn {
  readonly id: string;
  /** Who is away is passed over. */
  readonly here: 'yes' | 'away';
}

/** Whose turn it is after the last one, in their order: the next who is here; null where nobody is. */
export function nextInTurn(people: readonly InTurn[], last: string | null): string | null {
  const after = people.findIndex(({ id }) => id === last) + 1;
  const inOrder = [...people.slice(after), ...people.slice(0, after)];
  return inOrder.find(({ here }) => here === 'yes')?.id ?? null;
}
