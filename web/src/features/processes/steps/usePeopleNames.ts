import type { NameOf } from '@ladder/core';
import { useGetPeopleQuery } from '../../session/sessionApi.ts';

/** Names of everyone who may sign in, by id. */
export function usePeopleNames(): NameOf {
  const { data: people } = useGetPeopleQuery();
  return (id) => people?.items.find((person) => person.id === id)?.name;
}
