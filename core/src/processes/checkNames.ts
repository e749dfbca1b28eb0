import type { Problem } from '../criteria/check.ts';

/** Names of things of one kind: each has one, and no two the same. */
export function checkNames(
  list: readonly { readonly name: string }[],
  pointer: string,
  word: string,
  where: string,
): readonly Problem[] {
  const names = list.map(({ name }) => name.trim().toLowerCase());
  return names.flatMap((name, place) => {
    const at = `${pointer}/${place}/name`;
    if (name === '') return [{ pointer: at, detail: `A ${word} needs a name.` }];
    return names.indexOf(name) < place
      ? [{ pointer: at, detail: `There is already a ${word} of ${where} called “${list[place]?.name.trim()}”.` }]
      : [];
  });
}
