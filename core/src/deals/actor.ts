declare const mark: unique symbol;

/**
 * Who or what does something, as it is kept: a person's id as it is, anything else with its kind before its id. The
 * process itself acts by its clock and its rules, an import for all rows of a file.
 */
export type Actor = string & { readonly [mark]: 'Actor' };

export const OTHER_ACTORS = ['process', 'import', 'token'] as const;
export type OtherActor = (typeof OTHER_ACTORS)[number];

/** A person who acts. */
export const personActor = (id: string): Actor => id as Actor;

/** What acts and is no person, by its kind and id. */
export const actor = (kind: OtherActor, id: string): Actor => `${kind}:${id}` as Actor;

/** Tells who or what an actor is. */
export function readActor(text: Actor): { readonly kind: 'person' | OtherActor; readonly id: string } {
  const kind = OTHER_ACTORS.find((other) => text.startsWith(`${other}:`));
  return kind ? { kind, id: text.slice(kind.length + 1) } : { kind: 'person', id: text };
}

/** The person that an actor is; null where it is none. */
export function personOf(text: Actor): string | null {
  const { kind, id } = readActor(text);
  return kind === 'person' ? id : null;
}
