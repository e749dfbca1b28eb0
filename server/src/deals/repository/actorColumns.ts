import { type Actor, personOf } from '@ladder/core';

/** Who or what did something, in the columns that keep it: a person in one that knows people, anything else beside it. */
export const actorColumns = (by: Actor): { by_id: string | null; by_actor: string | null } => {
  const person = personOf(by);
  return { by_id: person, by_actor: person === null ? by : null };
};
