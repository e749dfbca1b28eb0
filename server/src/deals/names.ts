import { type Actor, type NameOf, readActor } from '@ladder/core';

/** Looks names up by the id of a person or party, or by what acted. */
export const nameLookup =
  (names: Readonly<Record<string, string>>): NameOf =>
  (id) => {
    const { kind, id: own } = readActor(id as Actor);
    return kind === 'process' ? 'the process' : names[own];
  };
